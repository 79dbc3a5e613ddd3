import { LUMA } from './light'
import type { Picture } from './picture'

const KR = LUMA[0]
const KB = LUMA[2]
const KG = 1 - KR - KB

/**
 * A picture as Y′CbCr 4:2:0 of 8 bits (ITU-R BT.709, Y′ 16 … 235): the plane of Y′, then Cb and Cr, each of half the width and
 * height, of the means of four pixels. Alpha is left out of account; width and height are even.
 */
export function toYuv420({ width, height, data }: Picture): Uint8Array<ArrayBuffer> {
  const half = width / 2
  const pixels = width * height
  const planes = new Uint8Array(pixels + 2 * half * (height / 2))
  const cb = pixels
  const cr = pixels + half * (height / 2)
  for (let y = 0; y < height; y += 2)
    for (let x = 0; x < width; x += 2) {
      let sumB = 0
      let sumR = 0
      for (let i = 0; i < 4; i++) {
        const at = (y + (i >> 1)) * width + x + (i & 1)
        const r = data[4 * at]
        const g = data[4 * at + 1]
        const b = data[4 * at + 2]
        const light = KR * r + KG * g + KB * b
        planes[at] = 16 + (219 / 255) * light + 0.5
        sumB += b - light
        sumR += r - light
      }
      const at = (y / 2) * half + x / 2
      planes[cb + at] = 128.5 + (sumB / 4) * (112 / 255 / (1 - KB))
      planes[cr + at] = 128.5 + (sumR / 4) * (112 / 255 / (1 - KR))
    }
  return planes
}
