/** Frames on each side of the seam that are played around it. */
const AROUND = 6

/** The frames about the seam, in the order in which they are played: N − k … N − 1, 0 … k − 1. */
export function seamOrder(N: number): number[] {
  const reach = Math.max(1, Math.min(AROUND, Math.floor(N / 2)))
  return Array.from({ length: 2 * reach }, (_, i) => (i - reach + N) % N)
}

/** Index of the frame due after a time in ms, with the delays repeating. Delays of 0 are skipped. */
export function frameDue(delaysMs: readonly number[], passedMs: number): number {
  const total = delaysMs.reduce((a, b) => a + b, 0)
  if (total <= 0) return 0
  let left = passedMs % total
  for (const [k, delay] of delaysMs.entries()) {
    if (left < delay) return k
    left -= delay
  }
  return delaysMs.length - 1
}
