import type { Picture } from '../image'
import { modulo } from '../modulo'

const distance = (data: Uint8ClampedArray, p: number, q: number): number => {
  let sum = 0
  for (let c = 0; c < 4; c++) {
    const d = data[p + c] - data[q + c]
    sum += d * d
  }
  return sum
}

/** The cheapest way from the first row to the last, a column for each, one step aside at most (Efros and Freeman 2001). */
function cheapestPath(cost: Float32Array, width: number, height: number): Int32Array {
  const sum = Float32Array.from(cost)
  for (let y = 1; y < height; y++)
    for (let x = 0; x < width; x++) {
      const above = (y - 1) * width + x
      const least = Math.min(sum[above], x > 0 ? sum[above - 1] : Infinity, x + 1 < width ? sum[above + 1] : Infinity)
      sum[y * width + x] += least
    }
  const path = new Int32Array(height)
  const last = (height - 1) * width
  for (let x = 1; x < width; x++) if (sum[last + x] < sum[last + path[height - 1]]) path[height - 1] = x
  for (let y = height - 2; y >= 0; y--) {
    const below = path[y + 1]
    let best = below
    for (const x of [below - 1, below + 1])
      if (x >= 0 && x < width && sum[y * width + x] < sum[y * width + best]) best = x
    path[y] = best
  }
  return path
}

/** Pixels to either side of a cut over which it is faded. */
const FEATHER = 2
/** Lines above and below over which what differs at a cut is averaged: a single one would be drawn out into a streak. */
const AVERAGED = 4

/** Where the ends of pictures, laid over each other, differ least: in all of them together. */
export function cutOf(pictures: readonly Picture[], band: number): Int32Array {
  const { width, height } = pictures[0]
  const w = width - band
  const cost = new Float32Array(band * height)
  for (const { data } of pictures)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < band; x++) {
        const i = y * band + x
        cost[i] += distance(data, 4 * (y * width + x), 4 * (y * width + w + x))
      }
  return cheapestPath(cost, band, height)
}

/**
 * The ends laid over each other and parted along a cut; what they still differ by there is spread evenly over the band on both sides,
 * which changes their gradients least (Pérez et al. 2003, line by line).
 */
export function alongCut({ width, height, data }: Picture, band: number, path: Int32Array): Picture {
  const w = width - band
  const gaps = gapsAlong({ width, height, data }, band, path)
  const out = new Uint8ClampedArray(w * height * 4)
  for (let y = 0; y < height; y++) {
    out.set(data.subarray(4 * (y * width + band), 4 * (y * width + w)), 4 * (y * w + band))
    const cut = path[y]
    for (let x = 0; x < band; x++) {
      // Left of the cut lies what goes on from the other end.
      const own = Math.min(1, Math.max(0, (x - cut + FEATHER) / (2 * FEATHER)))
      // At the ends of the band nothing but what goes on there is seen.
      const t = Math.min(1, Math.max(0, Math.min(own, x / FEATHER))) || (x >= band - 1 ? 1 : 0)
      const left = x / band
      const right = (x - band) / band
      for (let c = 0; c < 4; c++) {
        const gap = c === 3 ? 0 : gaps[4 * y + c]
        const here = data[4 * (y * width + x) + c] + gap * right
        const there = data[4 * (y * width + w + x) + c] + gap * left
        out[4 * (y * w + x) + c] = t * here + (1 - t) * there
      }
    }
  }
  return { width: w, height, data: out }
}

/** Differences of both ends along a cut, line by line, four numbers each. */
function gapsAlong({ width, height, data }: Picture, band: number, path: Int32Array): Float32Array {
  const w = width - band
  const gaps = new Float32Array(4 * height)
  for (let y = 0; y < height; y++)
    for (let c = 0; c < 4; c++) {
      let sum = 0
      for (let by = -AVERAGED; by <= AVERAGED; by++) {
        const row = modulo(y + by, height)
        const x = path[row]
        sum += data[4 * (row * width + x) + c] - data[4 * (row * width + w + x) + c]
      }
      gaps[4 * y + c] = sum / (2 * AVERAGED + 1)
    }
  return gaps
}
