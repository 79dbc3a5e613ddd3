import { modulo } from '../modulo'
import { greatest, median } from '../statistics'
import { meanColour, variation } from './descriptor'
import { type Series, STILL } from './series'

/** A frame varies less than this share of its neighbours where it is nearly uniform or empty. */
const EMPTY = 0.1
/** At most this many blank frames in a row are an accident; more are an intended pause. */
const MAX_FRAMES = 2

/** A frame without anything, beside which even little is something. */
const NOTHING = 0.02
/** The step past blank frames is at most this multiple of the largest other step, for each frame that it skips. */
const PASSED = 1.2

/**
 * Blank frames: nearly uniform between frames that are not, which resemble each other, in mean colour and in how much
 * they vary, far more than either resembles the blank one. Frames that fade in and out have faint neighbours, and a
 * light that goes off time and again is meant to: neither is named. Beside frames that are nearly empty themselves one without
 * anything is blank where what is drawn does not fade towards it and come back after it.
 */
export function blankFrames({ N, frames, steps, d }: Series): number[] {
  if (N < 4) return []
  const looks = frames.map((frame) => ({ mean: meanColour(frame[0]), varies: variation(frame[0]) }))
  const usual = median(looks.map(({ varies }) => varies))
  const look = (n: number) => looks[modulo(n, N)]
  const apart = (a: number, b: number) =>
    Math.hypot(...look(a).mean.map((v, c) => v - look(b).mean[c]), look(a).varies - look(b).varies)
  const runs: number[][] = []
  for (let n = 0; n < N; n++) {
    for (let length = 1; length <= MAX_FRAMES && length < N - 2; length++) {
      const before = n - 1
      const after = n + length
      const beside = Math.min(look(before).varies, look(after).varies)
      const inside = Array.from({ length }, (_, i) => n + i)
      if (beside < 0.5 * usual) {
        const empty = inside.every((i) => look(i).varies < Math.min(EMPTY * beside, NOTHING * usual))
        const fades = look(before - 1).varies > look(before).varies && look(after + 1).varies > look(after).varies
        const others = steps.filter((_, i) => i !== (before + N) % N && !inside.some((at) => at % N === i))
        const past = d(before, after) <= PASSED * (length + 1) * greatest(others)
        if (empty && !fades && past && beside > STILL) runs.push(inside.map((i) => i % N))
        continue
      }
      if (beside < STILL) continue
      const nearest = Math.min(...inside.flatMap((i) => [apart(before, i), apart(i, after)]))
      if (inside.every((i) => look(i).varies < EMPTY * beside) && apart(before, after) < 0.5 * nearest)
        runs.push(inside.map((i) => i % N))
    }
  }
  return runs.length === 1 ? runs[0] : []
}
