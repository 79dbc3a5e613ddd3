/** No number of a document is larger than this, whatever its unit. */
export const LARGEST_NUMBER = 1e6

/** A number as a document may hold it. */
export const boundNumber = (value: number): number =>
  Number.isNaN(value) ? 0 : Math.min(LARGEST_NUMBER, Math.max(-LARGEST_NUMBER, value)) + 0
