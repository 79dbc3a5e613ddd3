import type { Picture } from '../image'
import { hash } from '../random'
import type { Axis } from './edge'

/** How an edge is mended. */
export const HEALS = ['blend', 'cut', 'fill'] as const
export type Heal = (typeof HEALS)[number]

/** The band, px, that is mended unless another is asked for: an eighth of the side. */
export const usualBand = (side: number): number => Math.max(2, Math.round(side / 8))

/** A picture whose rows are its columns. */
function turned({ width, height, data }: Picture): Picture {
  const out = new Uint8ClampedArray(data.length)
  const [from, to] = [new Uint32Array(data.buffer, data.byteOffset, width * height), new Uint32Array(out.buffer)]
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) to[x * height + y] = from[y * width + x] as number
  return { width: height, height: width, data: out }
}

/**
 * A picture that meets itself in a direction.
 * @param band px: by blending and cutting, so much is laid over the other end, and the tile becomes so much smaller; by filling, so much
 * about the edge is laid anew, and it keeps its size
 * @throws RangeError for a band that is wider than half the picture, or narrower than two pixels
 */
export function healed(picture: Picture, axis: Axis, by: Heal, band: number): Picture {
  const whole = picture.data.byteOffset % 4 === 0 ? picture : { ...picture, data: picture.data.slice() }
  const across = axis === 'x' ? whole : turned(whole)
  if (!(band >= 2) || 2 * band > across.width)
    throw new RangeError(
      `A band of ${band} px does not fit: 2 to ${Math.floor(across.width / 2)} px can be mended here.`,
    )
  const out = by === 'blend' ? blended(across, band) : by === 'cut' ? alongCut(across, band) : filled(across, band)
  return axis === 'x' ? out : turned(out)
}

const smooth = (t: number): number => t * t * (3 - 2 * t)

/**
 * The ends laid over each other and mixed, keeping the variance that mixing takes away (Heitz and Neyret 2018, with the mean of the band in place
 * of a transform of its histogram).
 */
function blended({ width, height, data }: Picture, band: number): Picture {
  const w = width - band
  const out = new Uint8ClampedArray(w * height * 4)
  const mean = [0, 0, 0, 0]
  for (let y = 0; y < height; y++)
    for (let x = 0; x < band; x++)
      for (let c = 0; c < 4; c++) {
        const [p, q] = [4 * (y * width + x) + c, 4 * (y * width + w + x) + c]
        mean[c] = (mean[c] as number) + ((data[p] as number) + (data[q] as number)) / (2 * band * height)
      }
  for (let y = 0; y < height; y++) {
    out.set(data.subarray(4 * (y * width + band), 4 * (y * width + w)), 4 * (y * w + band))
    for (let x = 0; x < band; x++) {
      const t = smooth((x + 0.5) / band)
      const keep = Math.sqrt(t * t + (1 - t) * (1 - t))
      for (let c = 0; c < 4; c++) {
        const here = data[4 * (y * width + x) + c] as number
        const there = data[4 * (y * width + w + x) + c] as number
        const m = c === 3 ? 0 : (mean[c] as number)
        const mixed = t * here + (1 - t) * there
        out[4 * (y * w + x) + c] = c === 3 ? mixed : m + (mixed - m) / keep
      }
    }
  }
  return { width: w, height, data: out }
}

const distance = (data: Uint8ClampedArray, p: number, q: number): number => {
  let sum = 0
  for (let c = 0; c < 4; c++) {
    const d = (data[p + c] as number) - (data[q + c] as number)
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
      const least = Math.min(
        sum[above] as number,
        x > 0 ? (sum[above - 1] as number) : Infinity,
        x + 1 < width ? (sum[above + 1] as number) : Infinity,
      )
      sum[y * width + x] = (sum[y * width + x] as number) + least
    }
  const path = new Int32Array(height)
  const last = (height - 1) * width
  for (let x = 1; x < width; x++)
    if ((sum[last + x] as number) < (sum[last + (path[height - 1] as number)] as number)) path[height - 1] = x
  for (let y = height - 2; y >= 0; y--) {
    const below = path[y + 1] as number
    let best = below
    for (const x of [below - 1, below + 1])
      if (x >= 0 && x < width && (sum[y * width + x] as number) < (sum[y * width + best] as number)) best = x
    path[y] = best
  }
  return path
}

/** Pixels to either side of a cut over which it is faded. */
const FEATHER = 2

/** The ends laid over each other and parted where they differ least. */
function alongCut({ width, height, data }: Picture, band: number): Picture {
  const w = width - band
  const cost = new Float32Array(band * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < band; x++) cost[y * band + x] = distance(data, 4 * (y * width + x), 4 * (y * width + w + x))
  const path = cheapestPath(cost, band, height)
  const out = new Uint8ClampedArray(w * height * 4)
  for (let y = 0; y < height; y++) {
    out.set(data.subarray(4 * (y * width + band), 4 * (y * width + w)), 4 * (y * w + band))
    const cut = path[y] as number
    for (let x = 0; x < band; x++) {
      // Left of the cut lies what goes on from the other end.
      const own = Math.min(1, Math.max(0, (x - cut + FEATHER) / (2 * FEATHER)))
      // At the ends of the band nothing but what goes on there is seen.
      const t = Math.min(1, Math.max(0, Math.min(own, x / FEATHER))) || (x >= band - 1 ? 1 : 0)
      for (let c = 0; c < 4; c++)
        out[4 * (y * w + x) + c] =
          t * (data[4 * (y * width + x) + c] as number) + (1 - t) * (data[4 * (y * width + w + x) + c] as number)
    }
  }
  return { width: w, height, data: out }
}

/** Places of the picture that are tried for each patch. */
const TRIED = 160

/**
 * The edge is brought to the middle, and the band about it laid anew from patches of the picture itself, each the one of many that fits what lies
 * around it best (after Barnes et al. 2009, tried at random), parted from it where they differ least.
 */
function filled(picture: Picture, band: number): Picture {
  const { width, height } = picture
  const half = width >> 1
  const data = new Uint8ClampedArray(picture.data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = 4 * (y * width + ((x + half) % width))
      data.set(picture.data.subarray(from, from + 4), 4 * (y * width + x))
    }
  const seam = width - half
  const [left, margin] = [seam - (band >> 1), Math.max(2, band >> 2)]
  const tall = Math.min(height, Math.max(8, band))
  const source = data.slice()
  for (let top = 0; top < height; top += tall) {
    const rows = Math.min(tall, height - top)
    // The last patch meets the first one, as the picture meets itself below.
    const over = top === 0 ? 0 : Math.min(margin, top)
    const under = top > 0 && top + rows >= height ? margin : 0
    const row = (y: number) => ((top + y) % height) * width
    const error = (sx: number, sy: number): number => {
      let sum = 0
      for (let y = -over; y < rows + under; y += 2)
        for (let x = -margin; x < band + margin; x += 2) {
          const outside = x < 0 || x >= band || y < 0 || y >= rows
          if (!outside) continue
          const at = 4 * (row(y) + left + x)
          const there = 4 * ((sy + y) * width + sx + x)
          for (let c = 0; c < 3; c++) {
            const d = (data[at + c] as number) - (source[there + c] as number)
            sum += d * d
          }
        }
      return sum
    }
    let best: { x: number; y: number; error: number } | null = null
    for (let i = 0; i < TRIED; i++) {
      const room = width - band - 2 * margin
      const x = margin + (hash(top, i, 1) % Math.max(1, room))
      const y = over + (hash(top, i, 2) % Math.max(1, height - rows - over - under + 1))
      // What crosses the edge itself is no way out.
      if (x + band + margin > seam && x - margin < seam) continue
      const found = error(x, y)
      if (!best || found < best.error) best = { x, y, error: found }
    }
    if (!best) continue
    for (let y = -over; y < rows + under; y++)
      for (let x = -margin; x < band + margin; x++) {
        const share = Math.min(
          1,
          Math.min((x + margin + 1) / (margin + 1), (band + margin - x) / (margin + 1)),
          y < 0 ? (y + over + 1) / (over + 1) : y >= rows ? (rows + under - y) / (under + 1) : 1,
        )
        const t = smooth(Math.max(0, share))
        const at = 4 * (row(y) + left + x)
        const there = 4 * ((best.y + y) * width + best.x + x)
        for (let c = 0; c < 4; c++)
          data[at + c] = t * (source[there + c] as number) + (1 - t) * (data[at + c] as number)
      }
  }
  // Back to where it was.
  const out = new Uint8ClampedArray(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = 4 * (y * width + ((x - half + width) % width))
      out.set(data.subarray(from, from + 4), 4 * (y * width + x))
    }
  return { width, height, data: out }
}
