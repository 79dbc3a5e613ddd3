/** The remainder of a division that is never negative: 0 ≤ modulo(x, n) < n, for n above 0. */
export const modulo = (x: number, n: number): number => ((x % n) + n) % n

/** What a number lies above the whole one below it: 0 ≤ fractionalPart(x) < 1. */
export const fractionalPart = (x: number): number => x - Math.floor(x)
