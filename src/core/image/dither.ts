import { median } from '../statistics'
import { nearestColour, type Palette } from './palette'
import { type Picture, wordsOf } from './picture'

export const DITHERINGS = ['none', 'ordered', 'diffusion'] as const
/** `ordered` is fixed in the picture, so that a still region stays still; `diffusion` (Floyd & Steinberg 1976) crawls. */
export type Dithering = (typeof DITHERINGS)[number]

/** Number of places of the cache of looked-up colours, by hash: a later colour replaces an earlier one. */
const PLACES = 1 << 16

/** Finds the nearest palette entry from 1 on, squared distance in sRGB. */
function nearestFinder(palette: Palette) {
  const known = new Uint32Array(PLACES)
  const found = new Uint8Array(PLACES)
  const flat = Float64Array.from(palette.slice(1).flat())
  return (r: number, g: number, b: number): number => {
    // Thresholds and errors leave fractions of a colour.
    const colour = (((r + 0.5) | 0) << 16) | (((g + 0.5) | 0) << 8) | ((b + 0.5) | 0)
    const place = (Math.imul(colour, 0x9e3779b1) >>> 16) & (PLACES - 1)
    if (known[place] === colour + 1) return found[place]
    const best = 1 + nearestColour(flat, colour >> 16, (colour >> 8) & 255, colour & 255)[0]
    known[place] = colour + 1
    found[place] = best
    return best
  }
}

/** Bayer's 8×8 thresholds (Bayer 1973), −0.5 … 0.5. */
const BAYER = Array.from({ length: 64 }, (_, i) => {
  let x = i % 8
  let y = Math.floor(i / 8)
  let value = 0
  for (let bit = 0; bit < 3; bit++) {
    value = (value << 2) | (((x ^ y) & 1) << 1) | (y & 1)
    x >>= 1
    y >>= 1
  }
  return (value + 0.5) / 64 - 0.5
})

/** The usual distance from a colour of the palette to its nearest neighbour, per channel: what a threshold spans. */
function neighbourSpacing(palette: Palette): number {
  const distances = palette.slice(1).map((entry, i) => {
    const others = palette.slice(1).filter((_, j) => j !== i)
    return Math.min(255, ...others.map((other) => Math.hypot(...entry.map((v, c) => v - (other[c] ?? 0)))))
  })
  return median(distances) / Math.sqrt(3)
}

const clampByte = (x: number) => (x < 0 ? 0 : Math.min(x, 255))

/** The nearest entry for every pixel; neighbours of one colour are looked up once. */
function mapEach(picture: Picture, nearest: ReturnType<typeof nearestFinder>, transparent: boolean): Uint8Array {
  const words = wordsOf(picture)
  const indices = new Uint8Array(words.length)
  let last = ~(words[0] ?? 0)
  let index = 0
  for (let i = 0; i < words.length; i++) {
    const word = words[i]
    if (word !== last) {
      last = word
      index = transparent && word >>> 24 < 128 ? 0 : nearest(word & 255, (word >> 8) & 255, (word >> 16) & 255)
    }
    indices[i] = index
  }
  return indices
}

/**
 * A function that turns pictures into palette indices, one byte a pixel. Entry 0 of the palette stands for no colour:
 * with `transparent`, pixels under half opacity get it; colours are looked for from entry 1 on.
 */
export function paletteMapper(palette: Palette, dithering: Dithering, transparent: boolean) {
  const nearest = nearestFinder(palette)
  if (dithering === 'none') return (picture: Picture) => mapEach(picture, nearest, transparent)
  const spread = dithering === 'ordered' ? neighbourSpacing(palette) : 0
  return (picture: Picture): Uint8Array => {
    const { width, height, data } = picture
    const indices = new Uint8Array(width * height)
    const error = dithering === 'diffusion' ? new Float32Array((width + 2) * 2 * 3) : null
    for (let y = 0; y < height; y++) {
      const row = error ? (y % 2) * (width + 2) * 3 : 0
      const below = error ? ((y + 1) % 2) * (width + 2) * 3 : 0
      error?.fill(0, below, below + (width + 2) * 3)
      for (let x = 0; x < width; x++) {
        const p = (y * width + x) * 4
        if (transparent && data[p + 3] < 128) continue
        let r = data[p]
        let g = data[p + 1]
        let b = data[p + 2]
        if (dithering === 'ordered') {
          const shift = BAYER[(y % 8) * 8 + (x % 8)] * spread
          r = clampByte(r + shift)
          g = clampByte(g + shift)
          b = clampByte(b + shift)
        }
        if (error) {
          const e = row + (x + 1) * 3
          r = clampByte(r + error[e])
          g = clampByte(g + error[e + 1])
          b = clampByte(b + error[e + 2])
        }
        const index = nearest(r, g, b)
        indices[y * width + x] = index
        if (error) {
          const entry = palette[index]
          const off = [r - (entry[0] ?? 0), g - (entry[1] ?? 0), b - (entry[2] ?? 0)]
          for (let c = 0; c < 3; c++) {
            const o = off[c]
            const spill = (at: number, share: number) => {
              error[at + c] += o * share
            }
            spill(row + (x + 2) * 3, 7 / 16)
            spill(below + x * 3, 3 / 16)
            spill(below + (x + 1) * 3, 5 / 16)
            spill(below + (x + 2) * 3, 1 / 16)
          }
        }
      }
    }
    return indices
  }
}
