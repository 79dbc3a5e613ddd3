import { encodeLight, LINEAR_LIGHT, type Picture } from '../image'
import { morphed } from './flow'
import type { Plan } from './mend'

const STEPS = 4096
const ENCODED = Uint8ClampedArray.from({ length: STEPS + 1 }, (_, i) => 255 * encodeLight(i / STEPS))
/** Below this the table is too coarse: dark bytes lie close together in linear light. */
const DARK = 0.02

function byteOf(light: number): number {
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
 * One mended frame: its parts mixed in linear light with premultiplied alpha, or a morph of both. With `keepVariance` the deviation from the
 * mean colour of the parts is divided by √Σw² (Heitz & Neyret 2018), so that unrelated texture keeps its contrast.
 * @param source the picture of a source frame, all of one size
 */
export function mixFrame(frame: Plan['frames'][number], source: (n: number) => Picture): Picture {
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
