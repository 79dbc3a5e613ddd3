import { modulo } from '../modulo'
import { median } from '../statistics'
import { activePixels, type Descriptor, distance } from './descriptor'

/** Steps below this are no change at all: under a quarter of an 8-bit step over the active pixels. */
export const STILL = 0.25 / 255

/** A series of frames on a ring, described at several scales. Frame numbers are taken modulo N. */
export interface Series {
  readonly N: number
  readonly frames: readonly Descriptor[]
  /** For each scale, where the pixels that change in the loop begin in its planes. */
  readonly active: readonly Uint32Array[]
  /** The scale at which the interior best tells near from far. */
  readonly scale: number
  /** e: at that scale a step of twice the way changes 2ᵉ times as much; ½ … 1. */
  readonly exponent: number
  /** How many times as much a step of twice the way changes there: 2 on a straight way, 1 where no difference says how far. */
  readonly tells: number
  /** sᵢ = d(i, i+1 mod N) at that scale; the last one is the seam step. */
  readonly steps: readonly number[]
  /** Which steps hardly change anything: s = 0, or the lower side of a wide gap between the sorted steps. */
  readonly same: readonly boolean[]
  readonly frame: (n: number) => Descriptor
  /** d(i, j) at the judging scale, or another one. */
  readonly d: (i: number, j: number, scale?: number) => number
}

/** Describes how frames differ round the ring. @throws RangeError for no frames. */
export function seriesOf(frames: readonly Descriptor[]): Series {
  const N = frames.length
  if (N === 0) throw new RangeError('a loop has at least one frame')
  const active = activePixels(frames)
  const frame = (n: number) => frames[modulo(n, N)]
  const measured = new Map<number, number>()
  const distanceAt = (scale: number, i: number, j: number): number => {
    const from = modulo(i, N)
    const to = modulo(j, N)
    const key = (scale * N + Math.min(from, to)) * N + Math.max(from, to)
    const known = measured.get(key) ?? distance(frames[from][scale], frames[to][scale], active[scale])
    measured.set(key, known)
    return known
  }
  const kept = new Map<number, readonly number[]>()
  const stepsAt = (scale: number) => {
    const known = kept.get(scale) ?? Array.from({ length: N }, (_, n) => distanceAt(scale, n, n + 1))
    kept.set(scale, known)
    return known
  }
  const same = sameSteps(stepsAt(0), (i, j) => distanceAt(0, i, j))
  const shown = same.flatMap((each, n) => (each ? [] : [n]))
  const { scale, tells } = judgingScale(shown, frames[0]?.length ?? 1, distanceAt)
  // Twice the way changes 2ᵉ times as much: e is 1 where the difference is small beside what moves, ½ for hard edges.
  const exponent = Math.min(1, Math.max(0.5, Math.log2(Math.max(1, tells))))
  return {
    N,
    frames,
    active,
    scale,
    tells,
    exponent,
    steps: stepsAt(scale),
    same,
    frame,
    d: (i, j, at = scale) => distanceAt(at, i, j),
  }
}

/** The same ring with its frame `first` as frame 0: its seam lies before that frame. */
export function turnedSeries(series: Series, first: number): Series {
  const { N } = series
  const k = modulo(first, N)
  if (k === 0) return series
  const from = <T>(values: readonly T[]): T[] => [...values.slice(k), ...values.slice(0, k)]
  return {
    ...series,
    frames: from(series.frames),
    steps: from(series.steps),
    same: from(series.same),
    frame: (n) => series.frame(n + k),
    d: (i, j, scale) => series.d(i + k, j + k, scale),
  }
}

/** Steps that repeat a frame lie this many times under the least of those that move: the widest gap of the sorted steps. */
const GAP = 4
/** They are at most this share of what usually moves. */
const HELD = 0.25

/** Noise over a held frame does not grow from frame to frame; motion does. */
const GROWS = 1.2

/**
 * This tells the noise of a lossy encoder over a repeated frame from slow motion. The lower side of the gap is not held
 * where differences add up along it: there the picture moves, and the upper side jumps.
 */
function sameSteps(fine: readonly number[], d: (i: number, j: number) => number): boolean[] {
  const N = fine.length
  const sorted = fine.map((step) => Math.max(step, STILL / 4)).sort((a, b) => a - b)
  let widest = GAP
  let threshold = STILL
  for (let i = 0; i + 1 < N; i++) {
    const low = sorted[i]
    const high = sorted[i + 1]
    if (high / low > widest && low < HELD * median(sorted.slice(i + 1))) {
      widest = high / low
      threshold = Math.sqrt(low * high)
    }
  }
  const under = (limit: number) => fine.map((step) => step < limit)
  const held = under(Math.max(threshold, STILL))
  const growth = held.flatMap((each, n) => {
    const step = fine[n]
    const next = fine[(n + 1) % N]
    return each && held[(n + 1) % N] && Math.max(step, next) >= STILL ? [d(n, n + 2) / Math.max(step, next)] : []
  })
  return growth.length > 0 && median(growth) > GROWS ? under(STILL) : held
}

/**
 * The scale that best tells near from far: d(i, i+2) ÷ d(i, i+1) is 2 on a straight way and 1 where the difference
 * saturates, from picture to picture where they are held. Of scales that tell nearly as well the finest is taken.
 */
function judgingScale(
  shown: readonly number[],
  scales: number,
  d: (scale: number, i: number, j: number) => number,
): { scale: number; tells: number } {
  const M = shown.length
  if (M < 5) return { scale: 0, tells: 1 }
  const at = (k: number) => shown[k % M]
  const tells = Array.from({ length: scales }, (_, scale) => {
    // Round the ring, so that it does not matter where frame 0 lies; a single jump does not move the median.
    const near = median(shown.map((_, k) => d(scale, at(k), at(k + 1))))
    const far = median(shown.map((_, k) => d(scale, at(k), at(k + 2))))
    return near > STILL ? far / near : 0
  })
  const best = Math.max(...tells)
  const scale = tells.findIndex((each) => each >= 0.97 * best)
  return { scale, tells: tells[scale] }
}

/** Median absolute deviation, scaled to the standard deviation of a normal distribution. */
export const deviation = (values: readonly number[], middle: number): number =>
  1.4826 * median(values.map((v) => Math.abs(v - middle)))
