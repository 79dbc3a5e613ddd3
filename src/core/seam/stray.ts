import { greatest, median } from '../statistics'
import { variation } from './descriptor'
import { deviation, type Series, STILL } from './series'

/** At most this many frames in a row may be out of place; more of them are a part of the loop. */
const MAX_FRAMES = 2
/** The steps to the frame and from it are both at least this multiple of the largest other step. */
const OUT = 1.5
/** They also lie this many deviations above the median of the others. */
const DEVIATIONS = 6
/**
 * The step past the frame is at most this share of the one that leads to it, and at most this many ordinary steps for
 * each frame skipped.
 */
const PAST = 0.6
const PASSED = 1.2
/** With fewer other moving steps than this, nothing is known of the usual. */
const MIN_MOVES = 4
/** A frame varies less than this share of the others where it is nearly of one colour. */
const UNIFORM = 0.1

/**
 * Frames that do not belong, whatever they show: d(i−1, i) and d(i, i+1) are out of family while d(i−1, i+1) is an
 * ordinary step. Looked for at the scale at which the series is judged and at all coarser ones, since what moves fast
 * and is small differs from itself as much as from nothing where it is seen sharply. Of several such runs none is named:
 * what comes again is meant.
 */
export function strayFrames({ N, scale, frames, d, same }: Series): number[] {
  if (N < 8) return []
  const scales = frames[0]?.length ?? 1
  const found = new Map<string, number[]>()
  for (let at = scale; at < scales; at++) {
    const step = (n: number) => d(n, n + 1, at)
    const steps = Array.from({ length: N }, (_, n) => step(n))
    for (let n = 0; n < N; n++)
      for (let length = 1; length <= MAX_FRAMES; length++) {
        const touched = new Set(Array.from({ length: length + 1 }, (_, i) => (n - 1 + i + N) % N))
        const others = steps.filter((_, i) => !touched.has(i) && !same[i])
        if (others.length < MIN_MOVES) continue
        const way = Math.min(step(n - 1), step(n + length - 1))
        if (way <= OUT * greatest(others) || way < STILL) continue
        const usual = median(others)
        if (way <= usual + DEVIATIONS * deviation(others, usual)) continue
        const past = d(n - 1, n + length, at)
        if (past > PASSED * (length + 1) * greatest(others) || past > PAST * way) continue
        found.set(
          `${n} ${length}`,
          Array.from({ length }, (_, i) => (n + i) % N),
        )
      }
  }
  return found.size === 1 ? [...found.values()][0] : []
}

/** Whether a frame is nearly of one colour, or empty, beside the others. */
export function isUniform({ frames, frame }: Series, n: number): boolean {
  const usual = median(frames.map((each) => variation(each[0])))
  return variation(frame(n)[0]) < UNIFORM * usual
}
