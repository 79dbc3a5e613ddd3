/** Linear light of an sRGB byte (IEC 61966-2-1), 0 … 1. */
export const LINEAR_LIGHT: Float32Array = Float32Array.from({ length: 256 }, (_, i) => {
  const c = i / 255
  return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4
})

/** sRGB of linear light, 0 … 1. */
export const encodeLight = (light: number): number =>
  light <= 0.0031308 ? 12.92 * light : 1.055 * light ** (1 / 2.4) - 0.055
