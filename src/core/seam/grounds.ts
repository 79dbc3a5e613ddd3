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

/** The ground of a colour such as `#f7e9d0`; null for what is none. */
export function groundOfHex(text: string): Ground | null {
  const hex = /^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$/i.exec(text)
  if (!hex) return null
  const [r = 0, g = 0, b = 0] = hex.slice(1).map((pair) => Number.parseInt(pair, 16))
  return [r, g, b]
}
