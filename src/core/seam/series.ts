import { median } from '../statistics'
import { activePixels, type Descriptor, distance, type Plane } from './descriptor'

/** Steps below this are no change at all: under a quarter of an 8-bit step over the active pixels. */
export const STILL = 0.25 / 255

/** A series of frames on a ring, described at several scales. Frame numbers are taken modulo N. */
export interface Series {
  readonly N: number
  readonly frames: readonly Descriptor[]
  /** The scale at which the interior best tells near from far. */
  readonly scale: number
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
  const frame = (n: number) => frames[((n % N) + N) % N] as Descriptor
  const distanceAt = (scale: number, i: number, j: number) =>
    distance(frame(i)[scale] as Plane, frame(j)[scale] as Plane, active[scale] as Uint32Array)
  const kept = new Map<number, readonly number[]>()
  const stepsAt = (scale: number) => {
    const known = kept.get(scale) ?? Array.from({ length: N }, (_, n) => distanceAt(scale, n, n + 1))
    kept.set(scale, known)
    return known
  }
  const same = sameSteps(stepsAt(0))
  const shown = same.flatMap((each, n) => (each ? [] : [n]))
  const scale = judgingScale(shown, frames[0]?.length ?? 1, distanceAt)
  return { N, frames, scale, steps: stepsAt(scale), same, frame, d: (i, j, at = scale) => distanceAt(at, i, j) }
}

/** Steps that repeat a frame lie this many times under the least of those that move: the widest gap of the sorted steps. */
const GAP = 4
/** They are at most this share of what usually moves. */
const HELD = 0.25

/** So the noise of a lossy encoder over a repeated frame is told from slow motion. */
function sameSteps(fine: readonly number[]): boolean[] {
  const sorted = fine.map((step) => Math.max(step, STILL / 4)).sort((a, b) => a - b)
  let [widest, threshold] = [GAP, STILL]
  for (let i = 0; i + 1 < sorted.length; i++) {
    const [low, high] = [sorted[i] as number, sorted[i + 1] as number]
    if (high / low > widest && low < HELD * median(sorted.slice(i + 1)))
      [widest, threshold] = [high / low, Math.sqrt(low * high)]
  }
  return fine.map((step) => step < Math.max(threshold, STILL))
}

/**
 * The scale that best tells near from far: d(i, i+2) ÷ d(i, i+1) is 2 on a straight way and 1 where the difference
 * saturates, from picture to picture where they are held. Of scales that tell nearly as well the finest is taken.
 */
function judgingScale(
  shown: readonly number[],
  scales: number,
  d: (scale: number, i: number, j: number) => number,
): number {
  const M = shown.length
  if (M < 5) return 0
  const at = (k: number) => shown[k] as number
  const tells = Array.from({ length: scales }, (_, scale) => {
    const near = median(Array.from({ length: M - 1 }, (_, k) => d(scale, at(k), at(k + 1))))
    const far = median(Array.from({ length: M - 2 }, (_, k) => d(scale, at(k), at(k + 2))))
    return near > STILL ? far / near : 0
  })
  const best = Math.max(...tells)
  return tells.findIndex((each) => each >= 0.97 * best)
}

/** Median absolute deviation, scaled to the standard deviation of a normal distribution. */
export const deviation = (values: readonly number[], middle: number): number =>
  1.4826 * median(values.map((v) => Math.abs(v - middle)))
