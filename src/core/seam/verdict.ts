import type { Picture } from '../image'
import { median } from '../statistics'
import { activePixels, type Descriptor, descriptorOf, distance, meanColour, type Plane, variation } from './descriptor'

/** What the seam of a series of pictures is, by the words of the vocabulary; `still` where nothing moves. */
export type Verdict = 'closes' | 'repeats-a-frame' | 'blank-frame' | 'jumps' | 'hesitates' | 'still'

/** The seam of a loop as its pictures show it. */
export interface SeamReport {
  readonly verdict: Verdict
  /** sᵢ = d(i, i+1 mod N); the last one is the seam step. */
  readonly steps: readonly number[]
  readonly seamStep: number
  /** What the steps beside the seam let expect. */
  readonly expected: number
  /** seamStep ÷ expected. */
  readonly ratio: number
  /** The frame at fault, counted from 0, or null. */
  readonly frame: number | null
}

/** Median absolute deviation, scaled to the standard deviation of a normal distribution. */
const deviation = (values: readonly number[], middle: number): number =>
  1.4826 * median(values.map((v) => Math.abs(v - middle)))

/** Steps below this are no change at all: under a quarter of an 8-bit step over the active pixels. */
const STILL = 0.25 / 255
/** A step under this share of its neighbours holds the frame. */
const HELD = 0.2
/** A seam step this many times its largest neighbour, and this many deviations above the interior, jumps. */
const JUMP_RATIO = 1.5
const JUMP_DEVIATIONS = 2
/** A hesitation: the seam steps lie under this share of the median. */
const SLOW = 0.3

/**
 * The verdict on the seam of N pictures of one size, which repeat. Steps are judged at the scale at which the
 * interior best tells near from far, with median and median absolute deviation in place of fixed numbers.
 * @throws RangeError for no pictures, or pictures of different sizes.
 */
export function judgeSeam(pictures: readonly Picture[]): SeamReport {
  const [first] = pictures
  if (!first) throw new RangeError('a loop has at least one frame')
  if (pictures.some(({ width, height }) => width !== first.width || height !== first.height))
    throw new RangeError('the frames of a loop have one size')
  return judgeDescribed(pictures.map(descriptorOf))
}

/** judgeSeam for frames that have been described already, one at a time. */
export function judgeDescribed(frames: readonly Descriptor[]): SeamReport {
  const N = frames.length
  const active = activePixels(frames)
  const plane = (n: number, scale: number) => frames[(n + 2 * N) % N]?.[scale] as Plane
  const d = (scale: number, i: number, j: number) =>
    distance(plane(i, scale), plane(j, scale), active[scale] as Uint32Array)
  const stepsAt = (scale: number) => Array.from({ length: N }, (_, n) => d(scale, n, n + 1))

  const scale = judgingScale(N, frames[0]?.length ?? 1, stepsAt, d)
  const steps = stepsAt(scale)
  const s = (n: number) => steps[(n + 2 * N) % N] as number
  const seamStep = s(-1)
  const interior = steps.slice(0, N - 1)
  const beside = N > 4 ? [s(-3), s(-2), s(0), s(1)] : N > 1 ? interior : [0]
  const expected = median(beside)
  const report = (verdict: Verdict, frame: number | null = null): SeamReport => ({
    verdict,
    steps,
    seamStep,
    expected,
    ratio: expected > 0 ? seamStep / expected : seamStep > 0 ? Infinity : 1,
    frame,
  })

  if (Math.max(...steps) < STILL) return report('still')
  const blank = N > 3 ? blankFrame(frames) : null
  if (blank !== null) return report('blank-frame', blank)

  const moving = interior.filter((step) => step > STILL)
  const middle = median(moving)
  const largest = Math.max(...interior)
  const jumps =
    seamStep > JUMP_RATIO * Math.max(...beside) &&
    seamStep > 1.1 * largest &&
    seamStep > middle + JUMP_DEVIATIONS * deviation(moving, middle)
  if (jumps && N > 2) return report('jumps', N - 1)

  if (N > 4) {
    const holds = (n: number) => s(n) < STILL || s(n) < HELD * Math.min(s(n - 1), s(n + 1))
    const holdsInside = interior.filter((_, n) => n > 0 && n < N - 2 && holds(n)).length
    const goesOn = d(scale, N - 2, 1) > 0.7 * Math.max(s(-2), s(0))
    if (holds(N - 1) && holdsInside === 0 && goesOn && Math.min(s(-2), s(0)) > STILL)
      return report('repeats-a-frame', N - 1)
  }
  if (slowsAtSeam(steps, middle)) return report('hesitates')
  return report('closes')
}

/**
 * The scale that best tells near from far: d(i, i+2) ÷ d(i, i+1) is 2 on a straight way and 1 where the difference
 * saturates. Of scales that tell nearly as well the finest is taken.
 */
function judgingScale(
  N: number,
  scales: number,
  stepsAt: (scale: number) => number[],
  d: (scale: number, i: number, j: number) => number,
): number {
  if (N < 5) return 0
  const tells = Array.from({ length: scales }, (_, scale) => {
    const near = median(stepsAt(scale).slice(0, N - 1))
    const far = median(Array.from({ length: N - 2 }, (_, n) => d(scale, n, n + 2)))
    return near > STILL ? far / near : 0
  })
  const best = Math.max(...tells)
  return tells.findIndex((each) => each >= 0.97 * best)
}

/**
 * A frame that is nearly uniform between two that are not, and that resemble each other, in mean colour and in how
 * much they vary, far more than either resembles it. Frames that fade in and out have faint neighbours: not meant.
 */
function blankFrame(frames: readonly Descriptor[]): number | null {
  const N = frames.length
  const looks = frames.map((frame) => ({ mean: meanColour(frame[0] as Plane), varies: variation(frame[0] as Plane) }))
  const usual = median(looks.map(({ varies }) => varies))
  const look = (n: number) => looks[(n + N) % N] as (typeof looks)[number]
  const apart = (a: number, b: number) =>
    Math.hypot(...look(a).mean.map((v, c) => v - (look(b).mean[c] as number)), look(a).varies - look(b).varies)
  for (let n = 0; n < N; n++) {
    const beside = Math.min(look(n - 1).varies, look(n + 1).varies)
    const empty = look(n).varies < 0.1 * beside && beside > 0.5 * usual && beside > STILL
    if (empty && apart(n - 1, n + 1) < 0.5 * Math.min(apart(n - 1, n), apart(n, n + 1))) return n
  }
  return null
}

/** Steps that shrink smoothly towards the seam from both sides, to a slowness that the loop has nowhere else. */
function slowsAtSeam(steps: readonly number[], middle: number): boolean {
  const N = steps.length
  if (N < 12) return false
  const s = (n: number) => steps[(n + N) % N] as number
  const reach = Math.max(3, Math.round(N / 12))
  const slowest = Math.max(s(-1), Math.min(s(-2), s(0)))
  if (slowest > SLOW * middle) return false
  for (let k = 0; k < reach; k++) {
    if (s(k + 1) < s(k) * 0.999 || s(-k - 3) < s(-k - 2) * 0.999) return false
  }
  for (let n = reach + 1; n < N - reach - 2; n++) if (s(n) < 1.5 * slowest) return false
  return true
}
