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

/** How an edge is mended, worked out once: every frame of a clip is mended alike. */
export interface HealPlan {
  readonly axis: Axis
  readonly by: Heal
  /** px */
  readonly band: number
  /** By cutting: in each line, how far into the band the cut lies. */
  readonly path?: Int32Array
  /** By filling: where each patch comes from. */
  readonly patches?: readonly Patch[]
}

/** A patch: where it begins, its lines, and how far it reaches over those before and after it; where it is taken from. */
interface Patch {
  readonly top: number
  readonly rows: number
  readonly over: number
  readonly under: number
  readonly x: number
  readonly y: number
}

/** Bytes of a picture that can be read as words, its rows its columns where the edge lies down. */
function across(picture: Picture, axis: Axis): Picture {
  const whole = picture.data.byteOffset % 4 === 0 ? picture : { ...picture, data: picture.data.slice() }
  return axis === 'x' ? whole : turned(whole)
}

/**
 * How pictures of one size, such as some frames of a clip, are mended so that each meets itself in a direction.
 * @param band px: by blending and cutting, so much is laid over the other end, and the tile becomes so much smaller; by filling, so much
 * about the edge is laid anew, and it keeps its size
 * @throws RangeError for a band that is wider than half the picture, or narrower than two pixels
 */
export function healPlan(pictures: readonly Picture[], axis: Axis, by: Heal, band: number): HealPlan {
  const all = pictures.map((picture) => across(picture, axis))
  const [first] = all
  if (!first) throw new RangeError('There is no picture to heal.')
  if (!(band >= 2) || 2 * band > first.width)
    throw new RangeError(
      `A band of ${band} px does not fit: 2 to ${Math.floor(first.width / 2)} px can be mended here.`,
    )
  if (by === 'cut') return { axis, by, band, path: cutOf(all, band) }
  if (by === 'fill') return { axis, by, band, patches: patchesOf(all.map(halfOn), band) }
  return { axis, by, band }
}

/** A picture mended by a plan that was made for its size. */
export function healedBy(picture: Picture, { axis, by, band, path, patches }: HealPlan): Picture {
  const own = across(picture, axis)
  const out =
    by === 'cut' && path
      ? alongCut(own, band, path)
      : by === 'fill' && patches
        ? filled(own, band, patches)
        : blended(own, band)
  return axis === 'x' ? out : turned(out)
}

/** A picture that meets itself in a direction. @throws RangeError as healPlan does */
export const healed = (picture: Picture, axis: Axis, by: Heal, band: number): Picture =>
  healedBy(picture, healPlan([picture], axis, by, band))

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
/** Lines above and below over which what differs at a cut is averaged: a single one would be drawn out into a streak. */
const AVERAGED = 4

/** Where the ends of pictures, laid over each other, differ least: in all of them together. */
function cutOf(pictures: readonly Picture[], band: number): Int32Array {
  const { width, height } = pictures[0] as Picture
  const w = width - band
  const cost = new Float32Array(band * height)
  for (const { data } of pictures)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < band; x++) {
        const i = y * band + x
        cost[i] = (cost[i] as number) + distance(data, 4 * (y * width + x), 4 * (y * width + w + x))
      }
  return cheapestPath(cost, band, height)
}

/**
 * The ends laid over each other and parted along a cut; what they still differ by there is spread evenly over the band on both sides,
 * which changes their gradients least (Pérez et al. 2003, line by line).
 */
function alongCut({ width, height, data }: Picture, band: number, path: Int32Array): Picture {
  const w = width - band
  const gaps = gapsAlong({ width, height, data }, band, path)
  const out = new Uint8ClampedArray(w * height * 4)
  for (let y = 0; y < height; y++) {
    out.set(data.subarray(4 * (y * width + band), 4 * (y * width + w)), 4 * (y * w + band))
    const cut = path[y] as number
    for (let x = 0; x < band; x++) {
      // Left of the cut lies what goes on from the other end.
      const own = Math.min(1, Math.max(0, (x - cut + FEATHER) / (2 * FEATHER)))
      // At the ends of the band nothing but what goes on there is seen.
      const t = Math.min(1, Math.max(0, Math.min(own, x / FEATHER))) || (x >= band - 1 ? 1 : 0)
      const [left, right] = [x / band, (x - band) / band]
      for (let c = 0; c < 4; c++) {
        const gap = c === 3 ? 0 : (gaps[4 * y + c] as number)
        const here = (data[4 * (y * width + x) + c] as number) + gap * right
        const there = (data[4 * (y * width + w + x) + c] as number) + gap * left
        out[4 * (y * w + x) + c] = t * here + (1 - t) * there
      }
    }
  }
  return { width: w, height, data: out }
}

/** What the two ends differ by along a cut, line by line, four numbers each. */
function gapsAlong({ width, height, data }: Picture, band: number, path: Int32Array): Float32Array {
  const w = width - band
  const gaps = new Float32Array(4 * height)
  for (let y = 0; y < height; y++)
    for (let c = 0; c < 4; c++) {
      let sum = 0
      for (let by = -AVERAGED; by <= AVERAGED; by++) {
        const row = (((y + by) % height) + height) % height
        const x = path[row] as number
        sum += (data[4 * (row * width + x) + c] as number) - (data[4 * (row * width + w + x) + c] as number)
      }
      gaps[4 * y + c] = sum / (2 * AVERAGED + 1)
    }
  return gaps
}

/** Places of the picture that are tried for each patch. */
const TRIED = 160

/** A picture moved on by half, so that its edge lies in its middle. */
const halfOn = (picture: Picture): Picture => movedOn(picture, picture.width >> 1)

function movedOn({ width, height, data }: Picture, by: number): Picture {
  const out = new Uint8ClampedArray(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = 4 * (y * width + ((x + by + width) % width))
      out.set(data.subarray(from, from + 4), 4 * (y * width + x))
    }
  return { width, height, data: out }
}

/** Where the band about the edge lies in a picture that is moved on by half, and how far patches reach beyond it. */
const bandOf = (width: number, band: number) => {
  const seam = width - (width >> 1)
  return { seam, left: seam - (band >> 1), margin: Math.max(2, band >> 2) }
}

/**
 * The patches that lay the band about an edge anew, each of many tried at random the one that fits what lies around it best (after Barnes et al.
 * 2009), in all of some pictures together, which are moved on by half.
 */
function patchesOf(pictures: readonly Picture[], band: number): Patch[] {
  const { width, height } = pictures[0] as Picture
  const { seam, left, margin } = bandOf(width, band)
  const tall = Math.min(height, Math.max(8, band))
  const patches: Patch[] = []
  // What is laid already lies around the next.
  const laid = pictures.map(({ data, ...size }) => ({ ...size, data: data.slice() }))
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
          for (const [n, { data }] of laid.entries())
            for (let c = 0; c < 3; c++) {
              const d = (data[at + c] as number) - ((pictures[n] as Picture).data[there + c] as number)
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
    const patch: Patch = { top, rows, over, under, x: best.x, y: best.y }
    patches.push(patch)
    for (const [n, { data }] of laid.entries())
      layPatch(data, (pictures[n] as Picture).data, patch, band, width, height)
  }
  return patches
}

/** Lays a patch, fading where it meets what is there. */
function layPatch(
  data: Uint8ClampedArray,
  source: Uint8ClampedArray,
  { top, rows, over, under, x: fromX, y: fromY }: Patch,
  band: number,
  width: number,
  height: number,
): void {
  const { left, margin } = bandOf(width, band)
  for (let y = -over; y < rows + under; y++)
    for (let x = -margin; x < band + margin; x++) {
      const share = Math.min(
        1,
        Math.min((x + margin + 1) / (margin + 1), (band + margin - x) / (margin + 1)),
        y < 0 ? (y + over + 1) / (over + 1) : y >= rows ? (rows + under - y) / (under + 1) : 1,
      )
      const t = smooth(Math.max(0, share))
      const at = 4 * (((top + y) % height) * width + left + x)
      const there = 4 * ((fromY + y) * width + fromX + x)
      for (let c = 0; c < 4; c++) data[at + c] = t * (source[there + c] as number) + (1 - t) * (data[at + c] as number)
    }
}

/** The edge is brought to the middle, and the band about it laid anew from patches of the picture itself. */
function filled(picture: Picture, band: number, patches: readonly Patch[]): Picture {
  const { width, height } = picture
  const moved = halfOn(picture)
  const data = moved.data.slice()
  for (const patch of patches) layPatch(data, moved.data, patch, band, width, height)
  return movedOn({ width, height, data }, -(width >> 1))
}
