import { byteOfLight, LINEAR_LIGHT, type Picture, reducePicture } from '../../image'
import { median } from '../../statistics'

/** Light is told by pictures so large, px. */
export const LIGHT_SIDE = 64
/** Light is measured in this many bands of rows: many cameras read their rows one after the other. */
const BANDS = 12
/** Light beyond this is too dark to tell a factor, or burnt out, as a linear share. */
const LIGHT_RANGE = { least: 0.004, most: 0.9 }
/** A band has a factor if at least this many of its places give one. */
const MIN_PLACES = 8

/** Factors of linear red, green and blue, for each band. */
type Factors = readonly (readonly [number, number, number])[]

/**
 * Factors that bring the light of each picture to the usual light of all: a drift over the clip, an exposure that
 * breathes, the flicker of lamps, also where it runs through the picture in bands. Each factor is the median over the
 * places of a band, so that moving objects do not count.
 * @returns for each picture one factor per band
 */
export function lightFactors(pictures: readonly Picture[]): Factors[] {
  const small = pictures.map((picture) => reducePicture(picture, LIGHT_SIDE))
  const [first] = small
  if (!first) return []
  const { width, height } = first
  const usual = new Float32Array(3 * width * height)
  const values: number[] = []
  for (let p = 0; p < width * height; p++)
    for (let c = 0; c < 3; c++) {
      values.length = 0
      for (const { data } of small) values.push(data[4 * p + c])
      usual[3 * p + c] = LINEAR_LIGHT[Math.round(median(values))]
    }
  const bands = Math.min(BANDS, height)
  return small.map((picture) =>
    Array.from({ length: bands }, (_, band) => {
      const [y0, y1] = [band, band + 1].map((at) => Math.round((at * height) / bands)) as [number, number]
      return [0, 1, 2].map((c) => factorOf(picture, usual, c, y0, y1)) as unknown as [number, number, number]
    }),
  )
}

function factorOf({ width, data }: Picture, usual: Float32Array, c: number, y0: number, y1: number): number {
  const factors: number[] = []
  for (let p = y0 * width; p < y1 * width; p++) {
    const own = LINEAR_LIGHT[data[4 * p + c]]
    const wanted = usual[3 * p + c]
    if (Math.min(own, wanted) >= LIGHT_RANGE.least && Math.max(own, wanted) <= LIGHT_RANGE.most)
      factors.push(wanted / own)
  }
  return factors.length >= MIN_PLACES ? median(factors) : 1
}

/** A picture in the light of such factors, which go over into each other between the middles of their bands. */
export function inLight({ width, height, data }: Picture, factors: Factors): Picture {
  const out = new Uint8ClampedArray(data)
  const table = new Uint8ClampedArray(3 * 256)
  for (let y = 0; y < height; y++) {
    const at = Math.max(0, Math.min(factors.length - 1, ((y + 0.5) * factors.length) / height - 0.5))
    const above = factors[Math.floor(at)]
    const below = factors[Math.min(factors.length - 1, Math.floor(at) + 1)]
    for (let c = 0; c < 3; c++) {
      const a = above?.[c] ?? 1
      const b = below?.[c] ?? 1
      const factor = a + (at - Math.floor(at)) * (b - a)
      for (let v = 0; v < 256; v++) table[256 * c + v] = byteOfLight(factor * LINEAR_LIGHT[v])
    }
    for (let i = 4 * y * width; i < 4 * (y + 1) * width; i += 4)
      for (let c = 0; c < 3; c++) out[i + c] = table[256 * c + data[i + c]]
  }
  return { width, height, data: out }
}
