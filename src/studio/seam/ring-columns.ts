/**
 * Steps of a ring of N as columns of a chart, from half-way round over the seam in the middle to half-way round again.
 * Each column is one step or, if there are too many, several consecutive ones: more columns than px take time and show
 * nothing. The seam step has a column of its own.
 */
export function ringColumns(N: number, most: number): readonly (readonly number[])[] {
  const half = Math.floor(N / 2)
  const order = Array.from({ length: N }, (_, i) => (half + i) % N)
  const together = Math.max(1, Math.ceil(N / most))
  if (together === 1) return order.map((n) => [n])
  const seam = order.indexOf(N - 1)
  const parts = (steps: readonly number[]) =>
    Array.from({ length: Math.ceil(steps.length / together) }, (_, i) => steps.slice(i * together, (i + 1) * together))
  return [...parts(order.slice(0, seam)), [N - 1], ...parts(order.slice(seam + 1))]
}

/** The step of a column that is greatest. */
export const greatestOf = (column: readonly number[], steps: readonly number[]): number =>
  column.reduce((best, n) => ((steps[n] ?? 0) > (steps[best] ?? 0) ? n : best), column[0] ?? 0)
