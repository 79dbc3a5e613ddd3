import type { Picture } from './picture'

/**
 * A picture reduced to a size no larger than a longest side, by the mean of the cell of pixels that each new one
 * covers (with premultiplied alpha, so that what is clear has no colour); itself where it is small enough.
 */
export function reducePicture(picture: Picture, longest: number): Picture {
  const { width, height, data } = picture
  const factor = Math.max(width, height) / longest
  if (factor <= 1) return picture
  const [w, h] = [Math.max(1, Math.round(width / factor)), Math.max(1, Math.round(height / factor))]
  const small = new Uint8ClampedArray(w * h * 4)
  const edges = (size: number, cells: number) =>
    Int32Array.from({ length: cells + 1 }, (_, i) => Math.round((i * size) / cells))
  const [xs, ys] = [edges(width, w), edges(height, h)]
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      let [r, g, b, a] = [0, 0, 0, 0]
      const [x0, x1, y0, y1] = [xs[x] as number, xs[x + 1] as number, ys[y] as number, ys[y + 1] as number]
      for (let sy = y0; sy < y1; sy++)
        for (let i = (sy * width + x0) * 4; i < (sy * width + x1) * 4; i += 4) {
          const alpha = data[i + 3] as number
          r += (data[i] as number) * alpha
          g += (data[i + 1] as number) * alpha
          b += (data[i + 2] as number) * alpha
          a += alpha
        }
      const to = (y * w + x) * 4
      if (a > 0) [small[to], small[to + 1], small[to + 2]] = [r / a, g / a, b / a]
      small[to + 3] = a / ((x1 - x0) * (y1 - y0))
    }
  return { width: w, height: h, data: small }
}
