/** A motion as the fit sees it. */
export interface FitMotion {
  /** Wanted period in frames, p·r. */
  readonly frames: number
  /** Counts of cycles may be multiples of 1/fold; of k where it is 1/k. */
  readonly fold: number
  /** Whether its speed must not be bent at all. */
  readonly locked?: boolean
}

/** One length of the front, with what it does to each motion. */
export interface FitPoint {
  /** Frames. */
  readonly length: number
  /** Admissible number of cycles of each motion: whole, or a multiple of 1/fold. */
  readonly cycles: readonly number[]
  /** eᵢ = |N/(r·cᵢ·pᵢ) − 1|: how far each motion's speed is off. */
  readonly errors: readonly number[]
  readonly worstError: number
}

/** Errors that differ by less are one and the same: what remains of them is rounding. */
export const SAME_ERROR = 1e-12

/** The admissible count nearest to N/p, at least the smallest one. */
export const admissibleCycles = ({ frames, fold }: FitMotion, length: number): number =>
  Math.max(1, Math.round((length / frames) * fold)) / fold

/** Relative error of a motion's speed with the given number of cycles in N frames. */
export const speedError = (motion: FitMotion, length: number, cycles: number): number => {
  const error = Math.abs(length / (cycles * motion.frames) - 1)
  return error < SAME_ERROR ? 0 : error
}

/** Result of a length for each motion. */
export function fitAt(motions: readonly FitMotion[], length: number): FitPoint {
  const cycles = motions.map((motion) => admissibleCycles(motion, length))
  const errors = motions.map((motion, i) => speedError(motion, length, cycles[i] as number))
  return { length, cycles, errors, worstError: Math.max(0, ...errors) }
}

/**
 * The lengths from `least` to `most` frames for which no shorter one bends the speeds as little or less: the Pareto front
 * of short against true, ascending in length. Lengths that bend a locked motion are left out. A length is given up at the first motion that it bends too much, and the
 * motion that gave up the last one is asked first.
 */
export function fitFront(motions: readonly FitMotion[], most: number, least = 1): FitPoint[] {
  const front: FitPoint[] = []
  const order = [...motions]
  let best = Infinity
  for (let length = least; length <= most; length++) {
    const failing = order.findIndex((motion) => {
      const error = speedError(motion, length, admissibleCycles(motion, length))
      return motion.locked ? error > 1e-9 : error >= best - SAME_ERROR
    })
    if (failing > 0) order.unshift(...order.splice(failing, 1))
    if (failing >= 0) continue
    const point = fitAt(motions, length)
    front.push(point)
    best = point.worstError
    if (best === 0) break
  }
  return front
}
