/** Median of numbers; 0 of none. */
export function median(values: readonly number[]): number {
  const ordered = [...values].sort((a, b) => a - b)
  const middle = ordered.length >> 1
  if (ordered.length % 2 === 1) return ordered[middle] as number
  return ordered.length === 0 ? 0 : ((ordered[middle - 1] as number) + (ordered[middle] as number)) / 2
}
