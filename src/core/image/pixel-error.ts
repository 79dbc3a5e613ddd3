import { type Picture, wordsOf } from './picture'

/** How far a picture is from another; differences of bytes, 0 … 255. */
export interface PixelError {
  /** Mean and greatest difference of the colours where something is drawn. */
  readonly mean: number
  readonly worst: number
  /** Mean and greatest difference of alpha. */
  readonly alpha: number
  readonly worstAlpha: number
}

/** The alpha that is wanted of a pixel: all of it, drawn or not drawn by its half, or its own. */
export type WantedAlpha = 'opaque' | 'drawn or not' | 'own'

/**
 * How far a picture is from the drawn one of the same size. Colours count where at least half is drawn, or everywhere where all is
 * to be opaque.
 */
export function pixelError(found: Picture, drawn: Picture, wantedAlpha: WantedAlpha): PixelError {
  const is = wordsOf(found)
  const was = wordsOf(drawn)
  const opaque = wantedAlpha === 'opaque'
  const own = wantedAlpha === 'own'
  let sum = 0
  let count = 0
  let worst = 0
  let alphaSum = 0
  let worstAlpha = 0
  for (let p = 0; p < was.length; p++) {
    const a = is[p]
    const b = was[p]
    const alpha = b >>> 24
    // Most pixels of most files are as they were.
    if (a === b && alpha === 255) {
      count++
      continue
    }
    const drawnOrNot = alpha < 128 ? 0 : 255
    const kept = own ? alpha : drawnOrNot
    const wanted = opaque ? 255 : kept
    const off = Math.abs(wanted - (a >>> 24))
    alphaSum += off
    if (off > worstAlpha) worstAlpha = off
    if (!opaque && alpha < 128) continue
    const red = Math.abs((a & 255) - (b & 255))
    const green = Math.abs(((a >> 8) & 255) - ((b >> 8) & 255))
    const blue = Math.abs(((a >> 16) & 255) - ((b >> 16) & 255))
    sum += red + green + blue
    count++
    worst = Math.max(worst, red, green, blue)
  }
  return { mean: count > 0 ? sum / (3 * count) : 0, worst, alpha: alphaSum / was.length, worstAlpha }
}
