/** A whole number from 0 to 2³² − 1 that looks random but follows from its seeds (the finaliser of MurmurHash3). */
export function hash(...seeds: readonly number[]): number {
  let h = 0x9e3779b9
  for (const seed of seeds) {
    h = Math.imul(h ^ (seed | 0), 0x85ebca6b)
    h ^= h >>> 13
    h = Math.imul(h, 0xc2b2ae35)
    h ^= h >>> 16
  }
  return h >>> 0
}

/** A number in [0, 1) that follows from its seeds. */
export const seeded = (...seeds: readonly number[]): number => hash(...seeds) / 2 ** 32

/** The numbers 0 … n − 1 in an order that follows from a seed (Fisher–Yates). */
export function shuffled(count: number, seed: number): number[] {
  const order = Array.from({ length: count }, (_, i) => i)
  for (let i = count - 1; i > 0; i--) {
    const j = hash(seed, i) % (i + 1)
    ;[order[i], order[j]] = [order[j] as number, order[i] as number]
  }
  return order
}
