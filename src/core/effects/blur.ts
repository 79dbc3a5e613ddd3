import type { Picture } from '../image'

/** What lies beyond the edges of a picture: its other side, where it tiles, or its edge again. */
export const EDGES = ['wrap', 'stretch'] as const
export type Edges = (typeof EDGES)[number]

/** A picture as floats, its colours times their alpha: what may be averaged. Four to a pixel. */
function premultiplied({ data }: Picture): Float32Array {
  const out = new Float32Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] as number
    const share = alpha / 255
    out[i] = (data[i] as number) * share
    out[i + 1] = (data[i + 1] as number) * share
    out[i + 2] = (data[i + 2] as number) * share
    out[i + 3] = alpha
  }
  return out
}

function straight(values: Float32Array, width: number, height: number): Picture {
  const data = new Uint8ClampedArray(values.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = values[i + 3] as number
    const gain = alpha > 0 ? 255 / alpha : 0
    data[i] = (values[i] as number) * gain
    data[i + 1] = (values[i + 1] as number) * gain
    data[i + 2] = (values[i + 2] as number) * gain
    data[i + 3] = alpha
  }
  return { width, height, data }
}

/** The mean of 2r + 1 pixels along lines, r a fraction: those at both ends count for their part of it. */
function boxAlong(
  from: Float32Array,
  into: Float32Array,
  lines: { count: number; length: number; line: number; step: number },
  radius: number,
  edges: Edges,
): void {
  const { count, length, line, step } = lines
  const whole = Math.floor(radius)
  const part = radius - whole
  const gain = 1 / (2 * radius + 1)
  // Where the pixels of the window lie, from before the line to after it.
  const reach = whole + 1
  const at = new Int32Array(length + 2 * reach)
  for (let k = 0; k < at.length; k++) {
    const place = k - reach
    at[k] =
      4 * step * (edges === 'wrap' ? ((place % length) + length) % length : Math.min(length - 1, Math.max(0, place)))
  }
  for (let n = 0; n < count; n++) {
    const start = 4 * n * line
    for (let c = 0; c < 4; c++) {
      const base = start + c
      let sum = 0
      for (let k = 1; k <= 2 * whole + 1; k++) sum += from[base + (at[k] as number)] as number
      for (let p = 0; p < length; p++) {
        const before = from[base + (at[p] as number)] as number
        const after = from[base + (at[p + 2 * reach] as number)] as number
        into[base + 4 * step * p] = (sum + part * (before + after)) * gain
        sum += after - (from[base + (at[p + 1] as number)] as number)
      }
    }
  }
}

/** The radius of three boxes, one after the other, that blur as a Gaussian of a standard deviation does: 3·((2r+1)² − 1)/12 = σ². */
const boxRadius = (sigma: number): number => (Math.sqrt(4 * sigma * sigma + 1) - 1) / 2

/** A picture blurred by a Gaussian of a standard deviation in px, as three boxes (Wells 1986). */
export function blurred(picture: Picture, sigma: number, edges: Edges): Picture {
  const { width, height } = picture
  if (!(sigma > 0.05) || width * height === 0) return picture
  // Beyond this a blur of either kind is even all over.
  const radius = Math.min(boxRadius(sigma), 2 * Math.max(width, height))
  const rows = { count: height, length: width, line: width, step: 1 }
  const columns = { count: width, length: height, line: 1, step: width }
  let [from, into]: [Float32Array, Float32Array] = [premultiplied(picture), new Float32Array(picture.data.length)]
  for (const lines of [rows, rows, rows, columns, columns, columns]) {
    boxAlong(from, into, lines, radius, edges)
    ;[from, into] = [into, from]
  }
  return straight(from, width, height)
}

/** Unsharp masking: what differs from the blurred picture is added, so many times. */
export function sharpened(picture: Picture, amount: number, sigma: number, edges: Edges): Picture {
  const soft = blurred(picture, sigma, edges)
  if (soft === picture) return picture
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4)
    for (let c = 0; c < 3; c++) {
      const value = picture.data[i + c] as number
      data[i + c] = value + amount * (value - (soft.data[i + c] as number))
    }
  return { width: picture.width, height: picture.height, data }
}

/** What is brighter than a level, blurred and laid over the picture as light (screen of Compositing 1). */
export function glowing(picture: Picture, amount: number, sigma: number, level: number, edges: Edges): Picture {
  const { width, height } = picture
  const bright = new Uint8ClampedArray(picture.data)
  const span = Math.max(1, 255 * (1 - level))
  for (let i = 0; i < bright.length; i += 4) {
    const most = Math.max(bright[i] as number, bright[i + 1] as number, bright[i + 2] as number)
    const share = Math.min(1, Math.max(0, (most - 255 * level) / span))
    for (let c = 0; c < 3; c++) bright[i + c] = (bright[i + c] as number) * share
  }
  const light = blurred({ width, height, data: bright }, sigma, edges)
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = (light.data[i + 3] as number) / 255
    let most = 0
    for (let c = 0; c < 3; c++) {
      const added = Math.min(255, amount * (light.data[i + c] as number) * alpha)
      most = Math.max(most, added)
      const own = data[i + c] as number
      data[i + c] = 255 - ((255 - own) * (255 - added)) / 255
    }
    // Light is seen where nothing was drawn, too.
    data[i + 3] = Math.max(data[i + 3] as number, most)
  }
  return { width, height, data }
}
