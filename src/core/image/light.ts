import type { Picture } from './picture'

/** Linear light of an sRGB byte (IEC 61966-2-1), 0 … 1. */
export const LINEAR_LIGHT: Float32Array = Float32Array.from({ length: 256 }, (_, i) => {
  const c = i / 255
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
})

/** Weights of red, green and blue in brightness (ITU-R BT.709). */
export const LUMA = [0.2126, 0.7152, 0.0722] as const

/** How bright a colour is, by its encoded values and in their unit (luma of ITU-R BT.709). */
export const luma = (r: number, g: number, b: number): number => LUMA[0] * r + LUMA[1] * g + LUMA[2] * b

/** Puts the OKLab coordinates (Ottosson 2020) of linear light into three places of a list. */
export function putOklab(into: Float32Array, at: number, r: number, g: number, b: number): void {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b)
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b)
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b)
  into[at] = 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s
  into[at + 1] = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s
  into[at + 2] = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
}

/** sRGB of linear light, 0 … 1. */
const encodeLight = (light: number): number => (light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055)

/** OKLab and alpha of every pixel, four numbers each. */
export function labsOf({ data }: Picture): Float32Array {
  const labs = new Float32Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] / 255
    const light = (c: number) => LINEAR_LIGHT[data[i + c]]
    putOklab(labs, i, light(0), light(1), light(2))
    // A transparent pixel has no colour.
    for (let c = 0; c < 3; c++) labs[i + c] *= alpha
    labs[i + 3] = alpha
  }
  return labs
}

const STEPS = 4096
const ENCODED = Uint8ClampedArray.from({ length: STEPS + 1 }, (_, i) => 255 * encodeLight(i / STEPS))
/** Below this the table is too coarse: dark bytes lie close together in linear light. */
const DARK = 0.02

/** The byte of a linear share of light. */
export function byteOfLight(light: number): number {
  if (light < DARK) return light <= 0 ? 0 : 255 * encodeLight(light)
  return light >= 1 ? 255 : ENCODED[Math.round(light * STEPS)]
}
