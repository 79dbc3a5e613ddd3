import { encodeLight, LINEAR_LIGHT, type Picture } from '../image'
import { morphed } from './flow'
import type { Mixed, Patched, PlanFrame } from './mend'
import { eachPatch } from './patches'

const STEPS = 4096
const ENCODED = Uint8ClampedArray.from({ length: STEPS + 1 }, (_, i) => 255 * encodeLight(i / STEPS))
/** Below this the table is too coarse: dark bytes lie close together in linear light. */
const DARK = 0.02

/** The byte of a linear share of light. */
export function byteOf(light: number): number {
  if (light < DARK) return light <= 0 ? 0 : 255 * encodeLight(light)
  return light >= 1 ? 255 : (ENCODED[Math.round(light * STEPS)] as number)
}

/** Mean linear red, green and blue of a picture, clear pixels left out by their alpha. */
export function meanLight({ data }: Picture): [number, number, number] {
  const sums: [number, number, number] = [0, 0, 0]
  let weight = 0
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number
    weight += alpha
    for (let c = 0; c < 3; c++) sums[c] = (sums[c] as number) + alpha * (LINEAR_LIGHT[data[i + c] as number] as number)
  }
  return weight > 0 ? (sums.map((sum) => sum / weight) as [number, number, number]) : sums
}

/**
 * One mended frame: its pieces, joined where its map says; of each, its parts mixed in linear light with premultiplied alpha, or a morph of both. With `keepVariance` the deviation from the
 * mean colour of the parts is divided by √Σw² (Heitz & Neyret 2018), so that unrelated texture keeps its contrast.
 * @param source the picture of a source frame, all of one size
 */
export const mixFrame = (frame: PlanFrame, source: (n: number) => Picture): Picture =>
  'map' in frame ? joined(frame, source) : mixed(frame, source)

/** Pictures side by side as a map says, mixed in linear light where its borders are soft. */
function joined({ map, pieces }: Patched, source: (n: number) => Picture): Picture {
  const pictures = pieces.map((piece) => mixed(piece, source))
  const [first] = pictures
  if (!first) throw new RangeError('a frame is made of something')
  const { width, height } = first
  const data = new Uint8ClampedArray(width * height * 4)
  const words = new Uint32Array(data.buffer)
  const sources = pictures.map((each) => new Uint32Array(each.data.buffer, each.data.byteOffset, width * height))
  const light = new Float64Array(4)
  let [soft, left] = [-1, 1]
  eachPatch(map, width, height, (p, label, weight) => {
    if (weight === 1) {
      words[p] = sources[label]?.[p] as number
      return
    }
    if (p !== soft) {
      soft = p
      left = 1
      light.fill(0)
    }
    const own = (pictures[label] as Picture).data
    const share = (weight * (own[4 * p + 3] as number)) / 255
    for (let c = 0; c < 3; c++)
      light[c] = (light[c] as number) + share * (LINEAR_LIGHT[own[4 * p + c] as number] as number)
    light[3] = (light[3] as number) + share
    left -= weight
    const alpha = light[3] as number
    if (left > 1e-9 || alpha <= 0) return
    for (let c = 0; c < 3; c++) data[4 * p + c] = byteOf((light[c] as number) / alpha)
    data[4 * p + 3] = 255 * alpha
  })
  return { width, height, data }
}

function mixed(frame: Mixed, source: (n: number) => Picture): Picture {
  const { parts, keepVariance } = frame
  const [first] = parts
  if (!first) throw new RangeError('a frame is made of something')
  if (parts.length === 1 && first.gain.every((gain) => gain === 1)) return source(first.frame)
  const [from, to] = parts
  if (frame.morph && from && to) return morphed(source(from.frame), source(to.frame), to.weight, byteOf)
  const pictures = parts.map((part) => ({ ...part, picture: source(part.frame) }))
  const { width, height } = (pictures[0] as (typeof pictures)[number]).picture
  const mean = [0, 0, 0]
  if (keepVariance)
    for (const { picture, weight, gain } of pictures)
      meanLight(picture).forEach((light, c) => {
        mean[c] = (mean[c] as number) + weight * light * (gain[c] as number)
      })
  const spread = keepVariance ? Math.sqrt(parts.reduce((sum, { weight }) => sum + weight * weight, 0)) : 1
  const data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < data.length; i += 4) {
    let [r, g, b, a] = [0, 0, 0, 0]
    for (const { picture, weight, gain } of pictures) {
      const share = (weight * (picture.data[i + 3] as number)) / 255
      a += share
      r += share * (LINEAR_LIGHT[picture.data[i] as number] as number) * gain[0]
      g += share * (LINEAR_LIGHT[picture.data[i + 1] as number] as number) * gain[1]
      b += share * (LINEAR_LIGHT[picture.data[i + 2] as number] as number) * gain[2]
    }
    if (a <= 0) continue
    const light = [r / a, g / a, b / a]
    for (let c = 0; c < 3; c++) {
      const value = light[c] as number
      data[i + c] = byteOf(spread === 1 ? value : (mean[c] as number) + (value - (mean[c] as number)) / spread)
    }
    data[i + 3] = 255 * a
  }
  return { width, height, data }
}
