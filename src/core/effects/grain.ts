import type { Picture } from '../image'
import { hash } from '../random'

export interface Grain {
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
function grains(count: number, row: number, grain: Grain, channel: number): Float32Array {
  const out = new Float32Array(count)
  for (let i = 0; i < count; i++) out[i] = spread(hash(grain.seed, grain.step, channel, row, i))
  return out
}

/**
 * Grain as film and sensors have it: strongest in the middle tones, gone in black and white. A whole number of grains fits the
 * picture, so that it tiles; the same step gives the same grain.
 */
export function grained(picture: Picture, grain: Grain): Picture {
  const { width, height } = picture
  const data = new Uint8ClampedArray(picture.data)
  const across = Math.max(1, Math.round(width / Math.max(1, grain.size)))
  const down = Math.max(1, Math.round(height / Math.max(1, grain.size)))
  const channels = grain.coloured ? 3 : 1
  const [noise, left, share] = [new Float32Array(width * channels), new Int32Array(width), new Float32Array(width)]
  for (let x = 0; x < width; x++) {
    const at = (x * across) / width
    left[x] = Math.floor(at)
    share[x] = at - Math.floor(at)
  }
  const rows = new Map<string, Float32Array>()
  const rowOf = (row: number, channel: number) => {
    const key = `${row} ${channel}`
    const known = rows.get(key)
    if (known) return known
    if (rows.size > 12) rows.clear()
    const made = grains(across, row, grain, channel)
    rows.set(key, made)
    return made
  }
  for (let y = 0; y < height; y++) {
    const at = (y * down) / height
    const [row, v] = [Math.floor(at), at - Math.floor(at)]
    for (let channel = 0; channel < channels; channel++) {
      const [above, below] = [rowOf(row, channel), rowOf((row + 1) % down, channel)]
      for (let x = 0; x < width; x++) {
        const i = left[x] as number
        const next = i + 1 === across ? 0 : i + 1
        const u = share[x] as number
        const [a, b, c, d] = [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v]
        const mean =
          a * (above[i] as number) +
          b * (above[next] as number) +
          c * (below[i] as number) +
          d * (below[next] as number)
        // Between grains the mean of four varies less than one of them.
        noise[x * channels + channel] = mean / Math.sqrt(a * a + b * b + c * c + d * d)
      }
    }
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x)
      for (let c = 0; c < 3; c++) {
        const value = (data[i + c] as number) / 255
        const strength = grain.amount * 255 * Math.sqrt(4 * value * (1 - value))
        data[i + c] = (data[i + c] as number) + strength * (noise[x * channels + (channels === 3 ? c : 0)] as number)
      }
    }
  }
  return { width, height, data }
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
      for (let c = 0; c < 3; c++) data[i + c] = (data[i + c] as number) * (1 - share) + (colour[c] as number) * share
    }
  }
  return { width, height, data }
}
