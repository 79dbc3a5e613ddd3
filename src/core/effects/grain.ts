import type { Picture } from '../image'
import { hash } from '../random'
import { wholeCounts } from './whole-counts'

export interface GrainSpec {
  /** Standard deviation in shares of full brightness. */
  readonly amount: number
  /** px: the side of one grain. */
  readonly size: number
  /** Whether red, green and blue have grains of their own. */
  readonly coloured: boolean
  readonly seed: number
  /** Which of the loop's grains it is. */
  readonly step: number
}

/** A number near ±1 times what two even ones make of it: a triangle of variance 1. */
const spread = (h: number): number => ((h & 0xffff) + (h >>> 16) - 0xffff) * (Math.sqrt(6) / 0xffff)

/** A row of grains, and the next one, mixed between pixels; the last goes on at the first. */
function grains(count: number, row: number, grain: GrainSpec, channel: number): Float32Array {
  const out = new Float32Array(count)
  for (let i = 0; i < count; i++) out[i] = spread(hash(grain.seed, grain.step, channel, row, i))
  return out
}

/**
 * Grain as film and sensors have it: strongest in the middle tones, gone in black and white. A whole number of grains fits the
 * picture, so that it tiles; the same step gives the same grain.
 */
export function grained(picture: Picture, grain: GrainSpec): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const size = Math.max(1, grain.size)
  const mixes = wholeCounts(Math.max(1, width / size)).flatMap((across) =>
    wholeCounts(Math.max(1, height / size)).map((down) => ({
      share: across.share * down.share,
      rows: noiseRows(width, height, across.count, down.count, grain),
    })),
  )
  // Noises that are mixed vary less than one of them.
  const gain = 1 / Math.sqrt(mixes.reduce((sum, { share }) => sum + share * share, 0))
  const channels = channelsOf(grain)
  const noise = new Float32Array(width * channels)
  for (let y = 0; y < height; y++) {
    noise.fill(0)
    for (const { share, rows } of mixes) rows(y, gain * share, noise)
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x)
      for (let c = 0; c < 3; c++) {
        const value = data[i + c] / 255
        const strength = grain.amount * 255 * Math.sqrt(4 * value * (1 - value))
        data[i + c] += strength * noise[x * channels + (channels === 3 ? c : 0)]
      }
    }
  }
  return { width, height, data }
}

const channelsOf = ({ coloured }: GrainSpec): 1 | 3 => (coloured ? 3 : 1)

/**
 * Grains of whole numbers across and down, row by row: a function that adds a row of them, times a gain, to the channels of each pixel. Their
 * variance is 1.
 */
function noiseRows(width: number, height: number, across: number, down: number, grain: GrainSpec) {
  const channels = channelsOf(grain)
  const left = new Int32Array(width)
  const share = new Float32Array(width)
  for (let x = 0; x < width; x++) {
    const at = (x * across) / width
    left[x] = Math.floor(at)
    share[x] = at - Math.floor(at)
  }
  const kept = new Map<string, Float32Array>()
  const rowOf = (row: number, channel: number) => {
    const key = `${row} ${channel}`
    const known = kept.get(key)
    if (known) return known
    if (kept.size > 12) kept.clear()
    const made = grains(across, row, grain, channel)
    kept.set(key, made)
    return made
  }
  return (y: number, gain: number, into: Float32Array): void => {
    const at = (y * down) / height
    const row = Math.floor(at)
    const v = at - row
    for (let channel = 0; channel < channels; channel++) {
      const above = rowOf(row, channel)
      const below = rowOf((row + 1) % down, channel)
      for (let x = 0; x < width; x++) {
        const i = left[x]
        const next = i + 1 === across ? 0 : i + 1
        const u = share[x]
        const a = (1 - u) * (1 - v)
        const b = u * (1 - v)
        const c = (1 - u) * v
        const d = u * v
        const mean = a * above[i] + b * above[next] + c * below[i] + d * below[next]
        const to = x * channels + channel
        // Between grains the mean of four varies less than one of them.
        into[to] += (gain * mean) / Math.sqrt(a * a + b * b + c * c + d * d)
      }
    }
  }
}

export interface Vignette {
  /** 0 … 1: how much of the colour is laid over the corners. */
  readonly amount: number
  /** Where it begins, as a share of the way from the centre to a corner, and over how much of it it grows. */
  readonly from: number
  readonly softness: number
  /** px */
  readonly centre: { readonly x: number; readonly y: number }
  /** Red, green and blue, 0 … 255. */
  readonly colour: readonly number[]
}

/** A picture whose corners go over into a colour. */
export function vignetted(picture: Picture, { amount, from, softness, centre, colour }: Vignette): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const reach = Math.SQRT1_2
  for (let y = 0; y < height; y++) {
    const dy = (y + 0.5 - centre.y) / height
    for (let x = 0; x < width; x++) {
      const dx = (x + 0.5 - centre.x) / width
      const away = Math.hypot(dx, dy) / reach
      const t = Math.min(1, Math.max(0, (away - from) / Math.max(0.001, softness)))
      const share = amount * t * t * (3 - 2 * t)
      if (share <= 0) continue
      const i = 4 * (y * width + x)
      for (let c = 0; c < 3; c++) data[i + c] = data[i + c] * (1 - share) + colour[c] * share
    }
  }
  return { width, height, data }
}
