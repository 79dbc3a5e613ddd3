import { median } from '../statistics'
import { meanColour, type Plane, variation } from './descriptor'
import { type Series, STILL } from './series'

/** A frame varies less than this share of its neighbours where it is nearly uniform or empty. */
const EMPTY = 0.1
/** So many blank frames in a row are still an accident; more of them are a pause that was meant. */
const LONGEST = 2

/**
 * Blank frames: nearly uniform between frames that are not, which resemble each other, in mean colour and in how much
 * they vary, far more than either resembles the blank one. Frames that fade in and out have faint neighbours, and a
 * light that goes off time and again is meant to: neither is named.
 */
export function blankFrames({ N, frames }: Series): number[] {
  if (N < 4) return []
  const looks = frames.map((frame) => ({ mean: meanColour(frame[0] as Plane), varies: variation(frame[0] as Plane) }))
  const usual = median(looks.map(({ varies }) => varies))
  const look = (n: number) => looks[((n % N) + N) % N] as (typeof looks)[number]
  const apart = (a: number, b: number) =>
    Math.hypot(...look(a).mean.map((v, c) => v - (look(b).mean[c] as number)), look(a).varies - look(b).varies)
  const runs: number[][] = []
  for (let n = 0; n < N; n++) {
    for (let length = 1; length <= LONGEST && length < N - 2; length++) {
      const [before, after] = [n - 1, n + length]
      const beside = Math.min(look(before).varies, look(after).varies)
      if (beside < 0.5 * usual || beside < STILL) continue
      const inside = Array.from({ length }, (_, i) => n + i)
      const nearest = Math.min(...inside.flatMap((i) => [apart(before, i), apart(i, after)]))
      if (inside.every((i) => look(i).varies < EMPTY * beside) && apart(before, after) < 0.5 * nearest)
        runs.push(inside.map((i) => i % N))
    }
  }
  return runs.length === 1 ? (runs[0] as number[]) : []
}
