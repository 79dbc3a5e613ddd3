import type { Picture } from '../image'

/**
 * A mix of two pictures of one size: `share` of the second, times the alpha of a mask if there is one. Transparent
 * pixels carry no colour into the mix.
 */
export function mixed(from: Picture, to: Picture, share: number, mask: Picture | null): Picture {
  if (share >= 1 && !mask) return to
  const { width, height } = from
  const data = new Uint8ClampedArray(from.data)
  for (let i = 0; i < data.length; i += 4) {
    const t = mask ? (share * mask.data[i + 3]) / 255 : share
    if (t <= 0) continue
    const a = from.data[i + 3] * (1 - t)
    const b = to.data[i + 3] * t
    const alpha = a + b
    if (alpha > 0) for (let c = 0; c < 3; c++) data[i + c] = (from.data[i + c] * a + to.data[i + c] * b) / alpha
    data[i + 3] = alpha
  }
  return { width, height, data }
}
