/** Median of numbers; 0 of none. */
export function median(values: readonly number[]): number {
  const ordered = [...values].sort((a, b) => a - b)
  const middle = ordered.length >> 1
  if (ordered.length % 2 === 1) return ordered[middle] as number
  return ordered.length === 0 ? 0 : ((ordered[middle - 1] as number) + (ordered[middle] as number)) / 2
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
