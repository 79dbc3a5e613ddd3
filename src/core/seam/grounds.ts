/** Red, green and blue of what a transparent frame is seen on, 0 … 255. */
export type Ground = readonly [number, number, number]
/** The grounds over which transparent loops are judged: pages are white or dark, and what is between them. */
export const GROUNDS = {
  white: [255, 255, 255],
  black: [0, 0, 0],
  grey: [127.5, 127.5, 127.5],
} as const satisfies Record<string, Ground>
export type GroundName = keyof typeof GROUNDS
export const GROUND_NAMES = Object.keys(GROUNDS) as GroundName[]
