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
  /** sᵢ at the finest scale, where equal frames are told from those that are merely alike. */
  readonly fine: readonly number[]
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
  const scale = judgingScale(N, frames[0]?.length ?? 1, stepsAt, distanceAt)
  return {
    N,
    frames,
    scale,
    steps: stepsAt(scale),
    fine: stepsAt(0),
    frame,
    d: (i, j, at = scale) => distanceAt(at, i, j),
  }
}

/**
 * The scale that best tells near from far: d(i, i+2) ÷ d(i, i+1) is 2 on a straight way and 1 where the difference
 * saturates. Of scales that tell nearly as well the finest is taken.
 */
function judgingScale(
  N: number,
  scales: number,
  stepsAt: (scale: number) => readonly number[],
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

/** Median absolute deviation, scaled to the standard deviation of a normal distribution. */
export const deviation = (values: readonly number[], middle: number): number =>
  1.4826 * median(values.map((v) => Math.abs(v - middle)))
