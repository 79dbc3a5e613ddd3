import type { Picture } from '../image'
import { smoothstep } from '../smoothstep'
import type { Axis } from './edge'
import { alongCut, cutOf } from './heal-cut'
import { filled, type Patch, patchesOf } from './heal-fill'

/** How an edge is mended. */
export const HEALS = ['blend', 'cut', 'fill'] as const
export type Heal = (typeof HEALS)[number]

/** The band, px, that is mended unless another is asked for: an eighth of the side. */
export const usualBand = (side: number): number => Math.max(2, Math.round(side / 8))

/** A picture whose rows are its columns. */
function turned({ width, height, data }: Picture): Picture {
  const out = new Uint8ClampedArray(data.length)
  const from = new Uint32Array(data.buffer, data.byteOffset, width * height)
  const to = new Uint32Array(out.buffer)
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) to[x * height + y] = from[y * width + x]
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

/** Bytes of a picture that can be read as words, its rows its columns where the edge lies down. */
function across(picture: Picture, axis: Axis): Picture {
  const whole = picture.data.byteOffset % 4 === 0 ? picture : { ...picture, data: picture.data.slice() }
  return axis === 'x' ? whole : turned(whole)
}

/**
 * Plan for mending pictures of one size, such as frames of a clip, so that each meets itself in a direction.
 * @param band px: by blending and cutting, the part laid over the other end, by which the tile becomes smaller; by
 * filling, the width around the edge that is filled anew, and the size stays
 * @throws RangeError for a band wider than half the picture, or narrower than two pixels
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
  if (by === 'fill') return { axis, by, band, patches: patchesOf(all, band) }
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
        const p = 4 * (y * width + x) + c
        const q = 4 * (y * width + w + x) + c
        mean[c] += (data[p] + data[q]) / (2 * band * height)
      }
  for (let y = 0; y < height; y++) {
    out.set(data.subarray(4 * (y * width + band), 4 * (y * width + w)), 4 * (y * w + band))
    for (let x = 0; x < band; x++) {
      const t = smoothstep((x + 0.5) / band)
      const keep = Math.sqrt(t * t + (1 - t) * (1 - t))
      for (let c = 0; c < 4; c++) {
        const here = data[4 * (y * width + x) + c]
        const there = data[4 * (y * width + w + x) + c]
        const m = c === 3 ? 0 : mean[c]
        const mixed = t * here + (1 - t) * there
        out[4 * (y * w + x) + c] = c === 3 ? mixed : m + (mixed - m) / keep
      }
    }
  }
  return { width: w, height, data: out }
}
