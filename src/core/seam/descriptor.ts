import {
  type CellContrast,
  cellContrast,
  isOpaque,
  LINEAR_LIGHT,
  type Picture,
  putOklab,
  reducePicture,
} from '../image'
import { GROUNDS, type Ground } from './grounds'

/** Floats a pixel: the coordinates of OKLab. */
export const CHANNELS = 3

/** One scale of a frame: OKLab, three floats a pixel. */
export interface Plane {
  readonly width: number
  readonly height: number
  readonly values: Float32Array
}
/** A frame at several scales, finest first, each half the size of the one before. */
export type Descriptor = readonly Plane[]

/** Light of a byte that may lie between two whole ones. */
function linear(byte: number): number {
  const low = byte | 0
  const a = LINEAR_LIGHT[low]
  return low >= 255 ? a : a + (LINEAR_LIGHT[low + 1] - a) * (byte - low)
}

/** sRGB picture on a ground → OKLab (Ottosson 2020). Composited as browsers do it, in sRGB. */
function oklabPlane({ width, height, data }: Picture, ground: Ground): Plane {
  const values = new Float32Array(width * height * CHANNELS)
  for (let p = 0, to = 0; p < data.length; p += 4, to += CHANNELS) {
    // Most pixels of drawings look like the one before them.
    const q = p - 4
    if (
      data[p] === data[q] &&
      data[p + 1] === data[q + 1] &&
      data[p + 2] === data[q + 2] &&
      data[p + 3] === data[q + 3]
    ) {
      values.copyWithin(to, to - CHANNELS, to)
      continue
    }
    const alpha = data[p + 3] / 255
    const clear = 1 - alpha
    const r = linear(data[p] * alpha + ground[0] * clear)
    const g = linear(data[p + 1] * alpha + ground[1] * clear)
    const b = linear(data[p + 2] * alpha + ground[2] * clear)
    putOklab(values, to, r, g, b)
  }
  return { width, height, values }
}

/** A plane blurred (1 3 3 1, both ways) and reduced to half its size. */
function halve({ width, height, values }: Plane): Plane {
  const w = Math.max(1, width >> 1)
  const h = Math.max(1, height >> 1)
  const line = w * CHANNELS
  const across = new Float32Array(line * height)
  for (let y = 0; y < height; y++) {
    const row = y * width * CHANNELS
    for (let x = 0; x < w; x++) {
      const x0 = row + CHANNELS * Math.max(0, 2 * x - 1)
      const x1 = row + CHANNELS * 2 * x
      const x2 = row + CHANNELS * Math.min(width - 1, 2 * x + 1)
      const x3 = row + CHANNELS * Math.min(width - 1, 2 * x + 2)
      const to = y * line + CHANNELS * x
      for (let c = 0; c < CHANNELS; c++)
        across[to + c] = (values[x0 + c] + values[x3 + c] + 3 * (values[x1 + c] + values[x2 + c])) / 8
    }
  }
  const half = new Float32Array(line * h)
  for (let y = 0; y < h; y++) {
    const y0 = line * Math.max(0, 2 * y - 1)
    const y1 = line * 2 * y
    const y2 = line * Math.min(height - 1, 2 * y + 1)
    const y3 = line * Math.min(height - 1, 2 * y + 2)
    for (let i = 0; i < line; i++) {
      const outer = across[y0 + i] + across[y3 + i]
      half[y * line + i] = (outer + 3 * (across[y1 + i] + across[y2 + i])) / 8
    }
  }
  return { width: w, height: h, values: half }
}

/** Longest side of the frames that are judged, px, and the least that it is reduced to for very long loops. */
const JUDGED_SIDE = 128
const MIN_SIDE = 24
/** Descriptors take three floats a pixel, over all scales a third more. The ceiling is 128 MB. */
const CEILING_FLOATS = 32 * 1024 * 1024

/** Longest side, px, at which the given number of frames is judged: as large as the memory ceiling allows. */
export const judgedSide = (frames: number): number =>
  Math.max(MIN_SIDE, Math.min(JUDGED_SIDE, Math.sqrt(CEILING_FLOATS / (Math.max(1, frames) * CHANNELS * 1.34))))

const MAX_BLOCK = 6

/** The scales of a frame on a ground, down to about six pixels across. */
export function descriptorOf(picture: Picture, ground: Ground = GROUNDS.white): Descriptor {
  const planes = [oklabPlane(picture, ground)]
  for (let last = planes[0]; Math.min(last.width, last.height) >= 2 * MAX_BLOCK; ) {
    last = halve(last)
    planes.push(last)
  }
  return planes
}

/** Pixels that change by more than this in any channel over the loop are active; about two 8-bit steps. */
const ACTIVE = 2 / 255

/** For each scale, the indices of the pixels that change at all in the loop. */
export function activePixels(frames: readonly Descriptor[]): Uint32Array[] {
  const [first] = frames
  return (first ?? []).map((plane, scale) => {
    const least = Float32Array.from(plane.values)
    const most = Float32Array.from(plane.values)
    for (const frame of frames) {
      const { values } = frame[scale]
      for (let i = 0; i < values.length; i++) {
        const v = values[i]
        if (v < least[i]) least[i] = v
        if (v > most[i]) most[i] = v
      }
    }
    const active = new Uint32Array(least.length / CHANNELS)
    let count = 0
    for (let i = 0; i < least.length; i += CHANNELS) {
      const range = Math.max(most[i] - least[i], most[i + 1] - least[i + 1], most[i + 2] - least[i + 2])
      if (range > ACTIVE) active[count++] = i
    }
    return active.slice(0, count)
  })
}

/** d(i, j) at a scale: root mean square difference over the active pixels, all channels added. */
export function distance(a: Plane, b: Plane, active: Uint32Array): number {
  const count = active.length
  if (count === 0) return 0
  let sum = 0
  for (let k = 0; k < count; k++) {
    const i = active[k]
    for (let at = i; at < i + CHANNELS; at++) {
      const apart = a.values[at] - b.values[at]
      sum += apart * apart
    }
  }
  return Math.sqrt(sum / count)
}

/** How much a plane varies over the picture: standard deviation of its lightness. */
export function variation({ values }: Plane): number {
  const count = values.length / CHANNELS
  let sum = 0
  let squares = 0
  for (let i = 0; i < values.length; i += CHANNELS) {
    const v = values[i]
    sum += v
    squares += v * v
  }
  return Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2))
}

/** Mean OKLab coordinates of a plane. */
export function meanColour({ values }: Plane): readonly number[] {
  let first = 0
  let second = 0
  let third = 0
  for (let i = 0; i < values.length; i += CHANNELS) {
    first += values[i]
    second += values[i + 1]
    third += values[i + 2]
  }
  return [first, second, third].map((sum) => (CHANNELS * sum) / values.length)
}

/** A frame as it is judged. One that is not opaque keeps its pixels, so that it can be seen on any ground. */
export interface JudgedFrame {
  readonly overWhite: Descriptor
  /** The frame, reduced, where it is transparent somewhere; null where every ground shows the same. */
  readonly clear: Picture | null
  /** The contrast of the cells that its pixels were reduced to, where those are large: null where what is small is seen anyway. */
  readonly contrast: Descriptor | null
}

/** Frames that are reduced by this much and more may hold what is lost in the mean of a cell. */
const LARGE_CELL = 12

/**
 * Describes a frame.
 * @param side longest side at which it is judged, px (judgedSide); a frame that has been reduced already stays as it is
 */
export function describeFrame(frame: Picture, side = Infinity): JudgedFrame {
  const picture = reducePicture(frame, side)
  const large = Math.max(frame.width, frame.height) / Math.max(picture.width, picture.height) >= LARGE_CELL
  return {
    overWhite: descriptorOf(picture),
    clear: isOpaque(picture) ? null : picture,
    contrast: large ? contrastDescriptor(cellContrast(frame, side)) : null,
  }
}

/** Contrast as a picture without colour, so that it is judged as one; at its finest scale alone. */
function contrastDescriptor({ width, height, values }: CellContrast): Descriptor {
  const plane = new Float32Array(values.length * CHANNELS)
  for (const [i, value] of values.entries()) plane[CHANNELS * i] = value
  return [{ width, height, values: plane }]
}

/** Frames as they are seen on a ground. */
export const seenOn = (frames: readonly JudgedFrame[], ground: Ground): Descriptor[] =>
  frames.map(({ overWhite, clear }) => (clear && ground !== GROUNDS.white ? descriptorOf(clear, ground) : overWhite))
