import { type Picture, reducePicture } from '../../image'
import { type Grey, greyOf, halved } from '../look/grey'

/** Longest side of a picture for aligning, and that of its coarsest size, px. */
const MAX_ALIGNED_PX = 320
const MIN_ALIGNED_PX = 40

/** A picture at all sizes at which it is aligned, the coarsest first. */
export type Sizes = readonly Grey[]
export function sizesOf(picture: Picture, finest = MAX_ALIGNED_PX): Sizes {
  const sizes = [inEvenLight(greyOf(reducePicture(picture, finest)))]
  for (;;) {
    const [coarsest] = sizes as [Grey]
    if (Math.min(coarsest.width, coarsest.height) < 2 * MIN_ALIGNED_PX) return sizes
    sizes.unshift(halved(coarsest))
  }
}

/**
 * Radius over which light is evened out, as a share of the width. Where light changes by less than the second value, of
 * 255, it is not amplified; the third is the contrast aimed at.
 */
const ABOUT = 1 / 24
const LITTLE = 12
const CONTRAST = 40

/**
 * The picture with its local light evened out: less the local mean, divided by the local contrast. So a turning lamp or
 * a shadow does not read as motion.
 */
function inEvenLight({ width, height, data }: Grey): Grey {
  const reach = Math.max(2, Math.round(width * ABOUT))
  // Sums of all above and to the left, of values and of their squares.
  const across = width + 1
  const sums = new Float64Array(across * (height + 1))
  const squares = new Float64Array(across * (height + 1))
  for (let y = 0; y < height; y++) {
    let row = 0
    let rowSquares = 0
    for (let x = 0; x < width; x++) {
      const value = data[y * width + x]
      row += value
      rowSquares += value * value
      const at = (y + 1) * across + x + 1
      sums[at] = sums[at - across] + row
      squares[at] = squares[at - across] + rowSquares
    }
  }
  const out = new Float32Array(data.length)
  for (let y = 0, p = 0; y < height; y++) {
    const y0 = Math.max(0, y - reach) * across
    const y1 = Math.min(height, y + reach + 1) * across
    for (let x = 0; x < width; x++, p++) {
      const x0 = Math.max(0, x - reach)
      const x1 = Math.min(width, x + reach + 1)
      const count = ((y1 - y0) / across) * (x1 - x0)
      const within = (of: Float64Array) => (of[y1 + x1] - of[y0 + x1] - of[y1 + x0] + of[y0 + x0]) / count
      const mean = within(sums)
      const spread = Math.sqrt(Math.max(0, within(squares) - mean * mean))
      out[p] = (CONTRAST * (data[p] - mean)) / (spread + LITTLE)
    }
  }
  return { width, height, data: out }
}
