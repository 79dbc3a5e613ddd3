import type { Picture } from '../image'
import type { Plan } from './mend'

const LINEAR = Float32Array.from({ length: 256 }, (_, i) => {
  const c = i / 255
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
})
const STEPS = 4096
const ENCODED = Uint8ClampedArray.from({ length: STEPS + 1 }, (_, i) => {
  const c = i / STEPS
  return 255 * (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055)
})
/** Rounded in linear light, so that dark bytes are not all one. */
const encode = (light: number): number =>
  light <= 0 ? 0 : light >= 1 ? 255 : light < 0.02 ? 255 * srgb(light) : (ENCODED[Math.round(light * STEPS)] as number)
const srgb = (c: number) => (c <= 0.0031308 ? 12.92 * c : 1.055 * c ** (1 / 2.4) - 0.055)

/** Mean linear red, green and blue of a picture, clear pixels left out by their alpha. */
export function meanLight({ data }: Picture): [number, number, number] {
  const sums: [number, number, number] = [0, 0, 0]
  let weight = 0
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number
    weight += alpha
    for (let c = 0; c < 3; c++) sums[c] = (sums[c] as number) + alpha * (LINEAR[data[i + c] as number] as number)
  }
  return weight > 0 ? (sums.map((sum) => sum / weight) as [number, number, number]) : sums
}

/**
 * One mended frame: its parts mixed in linear light with premultiplied alpha. With `keepVariance` the deviation from the
 * mean colour of the parts is divided by √Σw² (Heitz & Neyret 2018), so that unrelated texture keeps its contrast.
 * @param source the picture of a source frame, all of one size
 */
export function mixFrame(frame: Plan['frames'][number], source: (n: number) => Picture): Picture {
  const { parts, keepVariance } = frame
  const [first] = parts
  if (!first) throw new RangeError('a frame is made of something')
  if (parts.length === 1 && first.gain.every((gain) => gain === 1)) return source(first.frame)
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
      r += share * (LINEAR[picture.data[i] as number] as number) * gain[0]
      g += share * (LINEAR[picture.data[i + 1] as number] as number) * gain[1]
      b += share * (LINEAR[picture.data[i + 2] as number] as number) * gain[2]
    }
    if (a <= 0) continue
    const light = [r / a, g / a, b / a]
    for (let c = 0; c < 3; c++) {
      const value = light[c] as number
      data[i + c] = encode(spread === 1 ? value : (mean[c] as number) + (value - (mean[c] as number)) / spread)
    }
    data[i + 3] = 255 * a
  }
  return { width, height, data }
}
