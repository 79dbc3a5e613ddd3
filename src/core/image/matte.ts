import type { Picture } from './picture'

/** Less than this is not seen, of 255: it stays clear, so that the edges of a matted picture do not grow. */
const SEEN = 26

/**
 * A picture of which every pixel is drawn or not drawn: edges that are partly clear are mixed with the colour of the ground
 * that it will lie on (the matte), so that no fringe of another colour is seen there.
 * @param matte red, green, blue, 0 … 255
 */
export function onMatte({ width, height, data }: Picture, matte: readonly [number, number, number]): Picture {
  const flat = new Uint8ClampedArray(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]
    if (alpha < SEEN) continue
    for (let c = 0; c < 3; c++) flat[i + c] = (data[i + c] * alpha + matte[c] * (255 - alpha)) / 255
    flat[i + 3] = 255
  }
  return { width, height, data: flat }
}

/** A picture laid on a ground, nothing of which is clear any more. @param ground red, green, blue, 0 … 255 */
export function flattened({ width, height, data }: Picture, ground: readonly [number, number, number]): Picture {
  const flat = new Uint8ClampedArray(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]
    for (let c = 0; c < 3; c++) flat[i + c] = (data[i + c] * alpha + ground[c] * (255 - alpha)) / 255
    flat[i + 3] = 255
  }
  return { width, height, data: flat }
}
