import type { Picture } from '../../image'
import type { SceneView } from './view'

/** Which pixels of a picture are wanted, by their index. */
export type Where = (pixel: number) => boolean

/** Weights of four neighbours for places between the middle two, in steps of 1/64 (Keys 1981, a = −1/2). */
const PHASES = 64
const CUBIC = Float32Array.from({ length: 4 * (PHASES + 1) }, (_, at) => {
  const t = Math.floor(at / 4) / PHASES
  return [
    (((2 - t) * t - 1) * t) / 2,
    ((3 * t - 5) * t * t + 2) / 2,
    (((4 - 3 * t) * t + 1) * t) / 2,
    ((t - 1) * t * t) / 2,
  ][at % 4]
})

/**
 * A picture as seen through a view: each of its pixels is taken from where the view has it, by a cubic that keeps it sharp; beyond the edge of the picture, what the edge
 * holds.
 * @param where pixels are wanted; everywhere where it is left out
 */
export function laidAs(picture: Picture, view: SceneView, where?: Where): Picture {
  const { width, height, data } = picture
  const out = new Uint8ClampedArray(data.length)
  const [a, b, c, d, e, f, g, h] = view as [number, number, number, number, number, number, number, number]
  const columns = new Int32Array(4)
  for (let y = 0, i = 0; y < height; y++) {
    const ny = (y + 0.5 - height / 2) / width
    for (let x = 0; x < width; x++, i += 4) {
      if (where && !where(i >> 2)) continue
      const nx = (x + 0.5 - width / 2) / width
      const w = g * nx + h * ny + 1
      const px = ((a * nx + b * ny + c) / w) * width + width / 2 - 0.5
      const py = ((d * nx + e * ny + f) / w) * width + height / 2 - 0.5
      const x0 = Math.floor(px)
      const y0 = Math.floor(py)
      const across = 4 * Math.round((px - x0) * PHASES)
      const down = 4 * Math.round((py - y0) * PHASES)
      for (let k = 0; k < 4; k++) columns[k] = 4 * Math.max(0, Math.min(width - 1, x0 - 1 + k))
      let red = 0
      let green = 0
      let blue = 0
      let alpha = 0
      for (let row = 0; row < 4; row++) {
        const wy = CUBIC[down + row]
        if (wy === 0) continue
        const line = 4 * width * Math.max(0, Math.min(height - 1, y0 - 1 + row))
        for (let k = 0; k < 4; k++) {
          const at = line + columns[k]
          const own = data[at + 3]
          const weight = wy * CUBIC[across + k] * own
          red += weight * data[at]
          green += weight * data[at + 1]
          blue += weight * data[at + 2]
          alpha += weight
        }
      }
      if (alpha <= 0) continue
      out[i] = red / alpha
      out[i + 1] = green / alpha
      out[i + 2] = blue / alpha
      out[i + 3] = alpha
    }
  }
  return { width, height, data: out }
}
