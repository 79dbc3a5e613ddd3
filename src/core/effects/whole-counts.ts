/** A whole number and its share of a mix. */
export interface WholeCount {
  readonly count: number
  /** 0 … 1; the shares of a mix add up to 1. */
  readonly share: number
}

/** A number this near to a whole one is that; between, the two whole ones beside it are mixed. */
const NEAR_WHOLE = 0.25

/**
 * The whole numbers that stand for any number where only whole ones tile: the nearest one, and half-way to the next one both, by shares that
 * change smoothly. So a size can move without a pop, and what tiles goes on tiling.
 */
export function wholeCounts(value: number): readonly WholeCount[] {
  const low = Math.floor(value)
  const along = Math.min(1, Math.max(0, (value - low - NEAR_WHOLE) / (1 - 2 * NEAR_WHOLE)))
  const share = along * along * (3 - 2 * along)
  if (share === 0) return [{ count: low, share: 1 }]
  if (share === 1) return [{ count: low + 1, share: 1 }]
  return [
    { count: low, share: 1 - share },
    { count: low + 1, share },
  ]
}
