import { luma, type Picture } from '../../image'

/** A picture of one channel. */
export interface Grey {
  readonly width: number
  readonly height: number
  readonly data: Float32Array
}

/** Grey as it is seen (luma), on black where it is clear. */
export function greyOf({ width, height, data }: Picture): Grey {
  const grey = new Float32Array(width * height)
  for (let p = 0, i = 0; p < grey.length; p++, i += 4)
    grey[p] = (luma(data[i], data[i + 1], data[i + 2]) * data[i + 3]) / 255
  return { width, height, data: grey }
}

/** Half the size, each pixel the mean of four. */
export function halved({ width, height, data }: Grey): Grey {
  const w = Math.max(1, width >> 1)
  const h = Math.max(1, height >> 1)
  const half = new Float32Array(w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const x1 = Math.min(width - 1, 2 * x + 1)
      const y1 = Math.min(height - 1, 2 * y + 1)
      const at = (px: number, py: number) => data[py * width + px]
      half[y * w + x] = (at(2 * x, 2 * y) + at(x1, 2 * y) + at(2 * x, y1) + at(x1, y1)) / 4
    }
  return { width: w, height: h, data: half }
}

/**
 * Value at a place between pixels, by bilinear interpolation; beyond the edge, the value at the edge. The most frequent
 * call of all: it allocates nothing.
 */
export function sample({ width, height, data }: Grey, x: number, y: number): number {
  const cx = Math.max(0, Math.min(x, width - 1))
  const cy = Math.max(0, Math.min(y, height - 1))
  const x0 = cx | 0
  const y0 = cy | 0
  const at = y0 * width + x0
  const right = x0 < width - 1 ? 1 : 0
  const below = y0 < height - 1 ? width : 0
  const fx = cx - x0
  const top = data[at] + fx * (data[at + right] - data[at])
  const under = at + below
  const bottom = data[under] + fx * (data[under + right] - data[under])
  return top + (cy - y0) * (bottom - top)
}
