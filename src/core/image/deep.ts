import type { Picture } from './picture'

/** A picture of numbers rather than of bytes: red, green, blue and alpha of each pixel, row by row from the top, colours not multiplied by alpha. */
export interface DeepPicture {
  readonly width: number
  readonly height: number
  readonly data: Float32Array<ArrayBuffer>
}

/** The least and the greatest of what the drawn pixels of a picture hold; 0 to 1 where nothing is drawn. */
export function rangeOf({ data }: DeepPicture): readonly [least: number, most: number] {
  let least = Number.POSITIVE_INFINITY
  let most = Number.NEGATIVE_INFINITY
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] <= 0) continue
    for (let k = 0; k < 3; k++) {
      const value = data[i + k]
      if (value < least) least = value
      if (value > most) most = value
    }
  }
  return most > least ? [least, most] : Number.isFinite(least) ? [least, least + 1] : [0, 1]
}

/** The same in bytes, from a value that becomes 0 to one that becomes 255. */
export function shallow({ width, height, data }: DeepPicture, [least, most]: readonly [number, number]): Picture {
  const out = new Uint8ClampedArray(data.length)
  for (let i = 0; i < data.length; i += 4) {
    for (let k = 0; k < 3; k++) out[i + k] = (255 * (data[i + k] - least)) / (most - least)
    out[i + 3] = 255 * data[i + 3]
  }
  return { width, height, data: out }
}

/** A picture of numbers from 0 to 1 as whole ones of 16 bits. */
export const sixteenBits = ({ data }: DeepPicture): Uint16Array<ArrayBuffer> =>
  Uint16Array.from(data, (value) => Math.round(65535 * Math.min(1, Math.max(0, value))))
