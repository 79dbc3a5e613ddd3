import { hash } from '../../random'
import { median, quantile } from '../../statistics'
import type { Distances } from './sketch'

/** Steps of less than this show nothing, of 255. */
export const STILL_STEP = 0.05

/** How far frame c lies from where a and b lead to, squared: |a − 2b + c|², by distances alone. */
const bent = (distances: Distances, a: number, b: number, c: number): number =>
  Math.max(0, 2 * distances.at(a, b) + 2 * distances.at(b, c) - distances.at(a, c))

/**
 * Usual distances in a clip: from a frame to the next, how far the motion bends (squared), between any two frames, and
 * between frames that differ by grain alone.
 */
export interface Ordinary {
  readonly step: number
  readonly bend: number
  readonly apart: number
  readonly grain: number
}

/** A step is no less than such a share of how far any two frames are apart: where things come and go at once, most steps show none of it. */
const MIN_STEP = 0.02

export function ordinary(distances: Distances): Ordinary {
  const { frames } = distances
  const steps = Array.from({ length: Math.max(0, frames - 1) }, (_, i) => Math.sqrt(distances.at(i, i + 1)))
  const bends = Array.from({ length: Math.max(0, frames - 2) }, (_, i) => bent(distances, i, i + 1, i + 2))
  const some = Array.from({ length: frames > 1 ? 4000 : 0 }, (_, n) => {
    const i = hash(n, 1) % frames
    return Math.sqrt(distances.at(i, (i + 1 + (hash(n, 2) % (frames - 1))) % frames))
  })
  // The nearest frames that there are, beside each other or, where all moves quickly, a turn apart.
  const grain = Math.min(quantile(steps, 0.1), quantile(some, 0.02))
  // A light that is on for a while only is alike in most pairs: the mean knows that it is not in all.
  const apart = Math.sqrt(some.reduce((sum, each) => sum + each * each, 0) / Math.max(1, some.length))
  return { step: Math.max(median(steps), MIN_STEP * apart), bend: median(bends), apart, grain }
}

/** Frames further apart than this move, in squares of what grain alone keeps them; and of how far any two are apart. */
export const MOVING_STEPS = 3
const MOVES_OF_ALL = 0.06 ** 2

/** Whether anything moves in a cut but grain. */
export function movesIn(
  distances: Distances,
  { grain, apart }: Ordinary,
  { start, length }: { readonly start: number; readonly length: number },
): boolean {
  const bound = Math.max(MOVING_STEPS * grain * grain, MOVES_OF_ALL * apart * apart)
  for (let n = 1; n < length; n++)
    if (distances.at(start, start + n) > bound || distances.at(start + (length >> 1), start + n) > bound) return true
  return false
}
