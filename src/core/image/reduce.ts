import { type Picture, wordsOf } from './picture'

/**
 * A picture reduced to a size no larger than a longest side, by the mean of the cell of pixels that each new one
 * covers (with premultiplied alpha, so that what is clear has no colour); itself where it is small enough.
 */
export function reducePicture(picture: Picture, longest: number): Picture {
  const { width, height } = picture
  const factor = Math.max(width, height) / longest
  if (factor <= 1) return picture
  const w = Math.max(1, Math.round(width / factor))
  const h = Math.max(1, Math.round(height / factor))
  const words = wordsOf(picture)
  const small = new Uint8ClampedArray(w * h * 4)
  const edges = (size: number, cells: number) =>
    Int32Array.from({ length: cells + 1 }, (_, i) => Math.round((i * size) / cells))
  const xs = edges(width, w)
  const ys = edges(height, h)
  /** Of one row of cells: red, green and blue times alpha, and alpha. */
  const sums = new Float64Array(w * 4)
  for (let y = 0; y < h; y++) {
    sums.fill(0)
    const y0 = ys[y]
    const y1 = ys[y + 1]
    for (let sy = y0; sy < y1; sy++)
      for (let x = 0; x < w; x++) {
        let r = 0
        let g = 0
        let b = 0
        let a = 0
        for (let i = sy * width + xs[x], end = sy * width + xs[x + 1]; i < end; i++) {
          const word = words[i]
          const alpha = word >>> 24
          r += (word & 255) * alpha
          g += ((word >> 8) & 255) * alpha
          b += ((word >> 16) & 255) * alpha
          a += alpha
        }
        const to = 4 * x
        sums[to] += r
        sums[to + 1] += g
        sums[to + 2] += b
        sums[to + 3] += a
      }
    for (let x = 0; x < w; x++) {
      const from = 4 * x
      const to = (y * w + x) * 4
      const a = sums[from + 3]
      if (a > 0) for (let c = 0; c < 3; c++) small[to + c] = sums[from + c] / a
      small[to + 3] = a / ((xs[x + 1] - xs[x]) * (y1 - y0))
    }
  }
  return { width: w, height: h, data: small }
}

/** How far the pixels of each cell of a picture lie apart: the cells are those of reducePicture, row by row. */
export interface CellContrast {
  readonly width: number
  readonly height: number
  /** Greatest less least brightness of a cell, seen on white, 0 … 1. */
  readonly values: Float32Array
}

/** The contrast of the cells of a picture reduced to a longest side: what is far smaller than a cell shows in it, and not in the mean. */
export function cellContrast(picture: Picture, longest: number): CellContrast {
  const { width, height } = picture
  const factor = Math.max(1, Math.max(width, height) / longest)
  const w = Math.max(1, Math.round(width / factor))
  const h = Math.max(1, Math.round(height / factor))
  const words = wordsOf(picture)
  const values = new Float32Array(w * h)
  const columns = Int32Array.from({ length: width }, (_, x) => Math.min(w - 1, Math.floor(((x + 0.5) * w) / width)))
  const least = new Float32Array(w)
  const most = new Float32Array(w)
  for (let y = 0; y < h; y++) {
    least.fill(Infinity)
    most.fill(-Infinity)
    for (let row = Math.round((y * height) / h); row < Math.round(((y + 1) * height) / h); row++)
      for (let x = 0, i = row * width; x < width; x++, i++) {
        const word = words[i]
        const alpha = word >>> 24
        const bright = ((word & 255) + 2 * ((word >> 8) & 255) + ((word >> 16) & 255)) * alpha + 1020 * (255 - alpha)
        const cell = columns[x]
        if (bright < least[cell]) least[cell] = bright
        if (bright > most[cell]) most[cell] = bright
      }
    for (let x = 0; x < w; x++) values[y * w + x] = (most[x] - least[x]) / (1020 * 255)
  }
  return { width: w, height: h, values }
}
