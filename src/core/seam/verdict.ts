import type { Picture } from '../image'
import type { Verdict } from '../loop'
import { median } from '../statistics'
import { blankFrames } from './blank'
import { type Descriptor, descriptorOf } from './descriptor'
import { heldSteps, repeatedFrames } from './holds'
import { regionSteps } from './regions'
import { deviation, type Series, STILL, seriesOf } from './series'

export type { Verdict }

/** The seam of a loop as its pictures show it. */
export interface SeamReport {
  readonly verdict: Verdict
  /** sᵢ = d(i, i+1 mod N); the last one is the seam step. */
  readonly steps: readonly number[]
  /** The same steps by region of the picture, nine each. */
  readonly regions: readonly (readonly number[])[]
  readonly seamStep: number
  /** What the steps beside the seam let expect. */
  readonly expected: number
  /** seamStep ÷ expected. */
  readonly ratio: number
  /** The frame at fault, counted from 0, or null. */
  readonly frame: number | null
}

/** How far the seam step must stand out of its neighbours and of all others, in ratios and in deviations. */
const JUMP = { beside: 1.2, largest: 1.1, deviations: 6, leastDeviation: 0.02 }
/** Where the speed varies much, how far it must stand out of its neighbours alone, and of how any other does. */
const SUDDEN = { beside: 1.5, others: 1.3 }
/** A hesitation: the seam steps lie under this share of the median. */
const SLOW = 0.3

/**
 * The verdict on the seam of N pictures of one size, which repeat. Steps are judged at the scale at which the
 * interior best tells near from far, with median and median absolute deviation in place of fixed numbers.
 * @throws RangeError for no pictures, or pictures of different sizes.
 */
export function judgeSeam(pictures: readonly Picture[]): SeamReport {
  const [first] = pictures
  if (first && pictures.some(({ width, height }) => width !== first.width || height !== first.height))
    throw new RangeError('the frames of a loop have one size')
  return judgeDescribed(pictures.map(descriptorOf))
}

/** judgeSeam for frames that have been described already, one at a time. */
export const judgeDescribed = (frames: readonly Descriptor[]): SeamReport => judgeSeries(seriesOf(frames)).seam

/** Everything that is a fault of the pictures, and the verdict that names the gravest. */
export interface SeriesFaults {
  readonly seam: SeamReport
  readonly blank: readonly number[]
  readonly repeated: readonly number[]
  readonly jumps: boolean
  readonly hesitates: boolean
}

/** Faults of a series, and its verdict by the order blank frame, jumps, repeats a frame, hesitates. */
export function judgeSeries(series: Series): SeriesFaults {
  const { N, steps } = series
  const s = (n: number) => steps[(n + 2 * N) % N] as number
  const seamStep = s(-1)
  const beside = N > 4 ? [s(-3), s(-2), s(0), s(1)] : N > 1 ? steps.slice(0, N - 1) : [0]
  const expected = median(beside)
  const regions = regionSteps(series)
  const report = (verdict: Verdict, frame: number | null = null): SeamReport => ({
    ...{ verdict, steps, regions },
    seamStep,
    expected,
    ratio: expected > 0 ? seamStep / expected : seamStep > 0 ? Infinity : 1,
    frame,
  })
  const none = { blank: [], repeated: [], jumps: false, hesitates: false }
  if (series.same.every(Boolean) && Math.max(...steps) < STILL) return { seam: report('still'), ...none }

  const blank = blankFrames(series)
  const repeated = repeatedFrames(series)
  const blinks = blank.includes(0) || blank.includes(N - 1)
  const jumps = !blinks && jumpsAtSeam(series, heldSteps(series))
  const interior = steps.slice(0, N - 1).filter((step) => step > STILL)
  const hesitates = !jumps && slowsAtSeam(series, median(interior))
  const seam =
    blank.length > 0
      ? report('blank-frame', blank[0])
      : jumps
        ? report('jumps', N - 1)
        : repeated.length > 0
          ? report('repeats-a-frame', repeated.includes(N - 1) ? N - 1 : repeated[0])
          : hesitates
            ? report('hesitates', N - 1)
            : report('closes')
  return { seam, blank, repeated, jumps, hesitates }
}

/**
 * The seam step is out of family. Judged by the pictures that differ, so that those on twos and those that tick are seen
 * as what moves from picture to picture: either it stands above its neighbours, the largest, and the spread of all; or
 * above its neighbours by far more than any other step does above its own, so that a loop of changing speed can jump.
 */
function jumpsAtSeam({ N, steps }: Series, held: readonly boolean[]): boolean {
  if (N < 3 || held[N - 1]) return false
  const moves = steps.filter((_, n) => !held[n])
  const M = moves.length
  if (M < 3) return false
  const s = (k: number) => moves[(k + 2 * M) % M] as number
  const outstanding = (k: number, reach: number) =>
    s(k) / Math.max(...Array.from({ length: reach }, (_, i) => Math.max(s(k - i - 1), s(k + i + 1))), STILL)
  const inside = moves.slice(0, M - 1)
  const middle = median(inside)
  const spread = Math.max(deviation(inside, middle), JUMP.leastDeviation * middle)
  const outOfFamily =
    outstanding(M - 1, M > 4 ? 2 : 1) > JUMP.beside &&
    s(-1) > JUMP.largest * Math.max(...inside) &&
    s(-1) > middle + JUMP.deviations * spread
  // The steps next to the seam have it for a neighbour: it makes them look small, never large.
  const seam = outstanding(M - 1, 1)
  const others = Math.max(...inside.map((_, k) => outstanding(k, 1)))
  const sudden = seam > SUDDEN.beside && seam > SUDDEN.others * others
  return outOfFamily || (sudden && M > 4)
}

/**
 * Steps that shrink smoothly towards the seam from both sides, to a slowness that the loop has nowhere else, in a motion
 * that goes on: one that turns back there shows the same on both sides.
 */
function slowsAtSeam({ N, steps, d, exponent }: Series, middle: number): boolean {
  if (N < 12) return false
  const s = (n: number) => steps[(n + N) % N] as number
  const reach = Math.max(3, Math.round(N / 12))
  const slowest = Math.max(s(-1), Math.min(s(-2), s(0)))
  if (slowest > SLOW ** exponent * middle) return false
  if (d(-1 - reach, reach) < Math.max(d(-1 - reach, 0), d(-1, reach))) return false
  for (let k = 0; k < reach; k++) {
    if (s(k + 1) < s(k) * 0.9 - STILL || s(-k - 3) < s(-k - 2) * 0.9 - STILL) return false
  }
  for (let n = reach + 1; n < N - reach - 2; n++) if (s(n) < 1.5 * slowest) return false
  return true
}
