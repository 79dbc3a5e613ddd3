/** No number of a document is larger than this, whatever its unit. */
export const MAX_NUMBER = 1e6

/** A number as a document may hold it. */
export const boundNumber = (value: number): number =>
  Number.isNaN(value) ? 0 : Math.min(MAX_NUMBER, Math.max(-MAX_NUMBER, value)) + 0
