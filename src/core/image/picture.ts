/** The most pixels that a picture to be written or read may have. */
export const MAX_PIXELS = 8192 * 8192

/** Pixels of one frame: width·height·4 bytes, sRGB with straight alpha, row by row from the top. */
export interface Picture {
  readonly width: number
  readonly height: number
  readonly data: Uint8ClampedArray
}

/**
 * What differs between two pictures of one size: |a − b| in each channel, alpha included, times the gain; opaque.
 * @throws RangeError when the sizes differ.
 */
export function difference(a: Picture, b: Picture, gain: number): Picture {
  if (a.width !== b.width || a.height !== b.height)
    throw new RangeError(`pictures of ${a.width}×${a.height} and ${b.width}×${b.height} px cannot be compared`)
  const data = new Uint8ClampedArray(a.data.length)
  for (let i = 0; i < data.length; i += 4) {
    const [alphaA, alphaB] = [a.data[i + 3] as number, b.data[i + 3] as number]
    const alpha = Math.abs(alphaA - alphaB)
    for (let c = 0; c < 3; c++) {
      const seen = Math.abs((a.data[i + c] as number) * alphaA - (b.data[i + c] as number) * alphaB) / 255
      data[i + c] = Math.max(seen, alpha) * gain
    }
    data[i + 3] = 255
  }
  return { width: a.width, height: a.height, data }
}

/** Largest difference of any channel between two pictures of one size, 0 … 255. */
export function greatestDifference(a: Picture, b: Picture): number {
  const { data } = difference(a, b, 1)
  let greatest = 0
  for (let i = 0; i < data.length; i += 4)
    greatest = Math.max(greatest, data[i] as number, data[i + 1] as number, data[i + 2] as number)
  return greatest
}
