/** Median of numbers; 0 of none. */
export function median(values: readonly number[]): number {
  const ordered = [...values].sort((a, b) => a - b)
  const middle = ordered.length >> 1
  if (ordered.length % 2 === 1) return ordered[middle] as number
  return ordered.length === 0 ? 0 : ((ordered[middle - 1] as number) + (ordered[middle] as number)) / 2
}

/** The value under which a share of numbers lies; 0 of none. */
export function quantile(values: readonly number[], share: number): number {
  const ordered = [...values].sort((a, b) => a - b)
  return ordered[Math.min(ordered.length - 1, Math.floor(share * ordered.length))] ?? 0
}

/** The straight line through values at even times (least squares): its mean, its slope, and the standard deviation of what is left. */
export function lineThrough(values: readonly number[]): { mean: number; slope: number; left: number } {
  const n = values.length
  const mean = values.reduce((a, b) => a + b, 0) / n
  const middle = (n - 1) / 2
  const time = values.reduce((sum, _, i) => sum + (i - middle) ** 2, 0)
  const both = values.reduce((sum, value, i) => sum + (i - middle) * (value - mean), 0)
  const slope = time > 0 ? both / time : 0
  const squares = values.reduce((sum, value, i) => sum + (value - mean - slope * (i - middle)) ** 2, 0)
  return { mean, slope, left: Math.sqrt(squares / n) }
}

/** A step over this multiple of every other one of a ring is a leap. */
const LEAP = 1.5
/** A leap between two frames takes two steps, both over this multiple of all others. */
const SNAP = 3
/** The step before such a pair is an ordinary one; where a motion gathers speed, it lies between. */
const ORDINARY = 2

/**
 * Whether the last step of a ring leaps: it is over `factor` times every other step; or, with the step before or after it, both stand
 * far above all others, so that neither may be measured by the other.
 */
export function leapsAtEnd(steps: readonly number[], factor = LEAP): boolean {
  const count = steps.length
  if (count < 3) return false
  const last = steps[count - 1] as number
  if (last > factor * greatest(steps.slice(0, -1))) return true
  if (count < 7) return false
  return [0, count - 2].some((beside) => {
    const rest = steps.filter((_, i) => i !== beside && i !== count - 1)
    const beyond = steps[beside === 0 ? 1 : count - 3] as number
    return Math.min(last, steps[beside] as number) > SNAP * greatest(rest) && beyond <= ORDINARY * median(rest)
  })
}

/** The greatest of numbers; 0 of none. */
export const greatest = (values: readonly number[]): number => values.reduce((most, value) => Math.max(most, value), 0)
