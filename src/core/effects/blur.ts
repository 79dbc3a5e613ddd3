import type { Picture } from '../image'
import { modulo } from '../modulo'

/** Continuation of a picture beyond its edges: its other side, where it tiles, or its edge again. */
export const EDGES = ['wrap', 'stretch'] as const
export type Edges = (typeof EDGES)[number]

/** A picture as floats, its colours times their alpha: what may be averaged. Four to a pixel. */
function premultiplied({ data }: Picture): Float32Array {
  const out = new Float32Array(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3]
    const share = alpha / 255
    out[i] = data[i] * share
    out[i + 1] = data[i + 1] * share
    out[i + 2] = data[i + 2] * share
    out[i + 3] = alpha
  }
  return out
}

function straight(values: Float32Array, width: number, height: number): Picture {
  const data = new Uint8ClampedArray(values.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = values[i + 3]
    const gain = alpha > 0 ? 255 / alpha : 0
    data[i] = values[i] * gain
    data[i + 1] = values[i + 1] * gain
    data[i + 2] = values[i + 2] * gain
    data[i + 3] = alpha
  }
  return { width, height, data }
}

/** Indices of the pixels of a line, extended by `reach` before the first and after the last. */
function placesOf(length: number, reach: number, edges: Edges): Int32Array {
  const at = new Int32Array(length + 2 * reach)
  for (let k = 0; k < at.length; k++) {
    const place = k - reach
    at[k] = edges === 'wrap' ? modulo(place, length) : Math.min(length - 1, Math.max(0, place))
  }
  return at
}

/** The mean of 2r + 1 pixels along each row, r a fraction: those at both ends count for their part of it. */
function alongRows(
  from: Float32Array,
  into: Float32Array,
  width: number,
  height: number,
  radius: number,
  edges: Edges,
) {
  const whole = Math.floor(radius)
  const part = radius - whole
  const gain = 1 / (2 * radius + 1)
  const reach = whole + 1
  const at = placesOf(width, reach, edges)
  for (let y = 0; y < height; y++) {
    const row = 4 * y * width
    let r = 0
    let g = 0
    let b = 0
    let a = 0
    for (let k = 1; k <= 2 * whole + 1; k++) {
      const i = row + 4 * at[k]
      r += from[i]
      g += from[i + 1]
      b += from[i + 2]
      a += from[i + 3]
    }
    for (let x = 0; x < width; x++) {
      const before = row + 4 * at[x]
      const after = row + 4 * at[x + 2 * reach]
      const leaving = row + 4 * at[x + 1]
      const to = row + 4 * x
      const r1 = from[after]
      const g1 = from[after + 1]
      const b1 = from[after + 2]
      const a1 = from[after + 3]
      into[to] = (r + part * (from[before] + r1)) * gain
      into[to + 1] = (g + part * (from[before + 1] + g1)) * gain
      into[to + 2] = (b + part * (from[before + 2] + b1)) * gain
      into[to + 3] = (a + part * (from[before + 3] + a1)) * gain
      r += r1 - from[leaving]
      g += g1 - from[leaving + 1]
      b += b1 - from[leaving + 2]
      a += a1 - from[leaving + 3]
    }
  }
}

/** The same along each column, row by row, so that memory is read as it lies. */
function alongColumns(
  from: Float32Array,
  into: Float32Array,
  width: number,
  height: number,
  radius: number,
  edges: Edges,
) {
  const whole = Math.floor(radius)
  const part = radius - whole
  const gain = 1 / (2 * radius + 1)
  const reach = whole + 1
  const at = placesOf(height, reach, edges)
  const length = 4 * width
  const sums = new Float64Array(length)
  for (let k = 1; k <= 2 * whole + 1; k++) {
    const row = length * at[k]
    for (let i = 0; i < length; i++) sums[i] += from[row + i]
  }
  for (let y = 0; y < height; y++) {
    const before = length * at[y]
    const after = length * at[y + 2 * reach]
    const leaving = length * at[y + 1]
    const to = length * y
    for (let i = 0; i < length; i++) {
      const sum = sums[i]
      const coming = from[after + i]
      into[to + i] = (sum + part * (from[before + i] + coming)) * gain
      sums[i] = sum + coming - from[leaving + i]
    }
  }
}

/** The radius of three boxes, one after the other, that blur as a Gaussian of a standard deviation does: 3·((2r+1)² − 1)/12 = σ². */
const boxRadius = (sigma: number): number => (Math.sqrt(4 * sigma * sigma + 1) - 1) / 2

/**
 * A broad blur is computed at a reduced size, as long as its remaining width there is at least this, px: below it, the
 * error would be seen.
 */
const MIN_REDUCED_SIGMA = 8
const BROAD = 3.5

/** How many times coarser a blur can be worked out: a power of two that divides both sides. */
function coarserBy(sigma: number, width: number, height: number): number {
  let by = 1
  while (by < MIN_REDUCED_SIGMA && sigma / (2 * by) >= BROAD && width % (2 * by) === 0 && height % (2 * by) === 0)
    by *= 2
  return by
}

/** The means of squares of pixels. */
function reduced(values: Float32Array, width: number, height: number, by: number): Float32Array {
  const w = width / by
  const h = height / by
  const out = new Float32Array(4 * w * h)
  for (let y = 0; y < height; y++) {
    const row = 4 * Math.floor(y / by) * w
    for (let x = 0; x < width; x++) {
      const from = 4 * (y * width + x)
      const to = row + 4 * ((x / by) | 0)
      for (let c = 0; c < 4; c++) out[to + c] += values[from + c]
    }
  }
  const gain = 1 / (by * by)
  for (let i = 0; i < out.length; i++) out[i] *= gain
  return out
}

/** Where pixels lie between the squares of a side: the square before, the one after, and how far on the way. */
function between(length: number, count: number, by: number, edges: Edges) {
  const before = new Int32Array(length)
  const after = new Int32Array(length)
  const share = new Float32Array(length)
  for (let place = 0; place < length; place++) {
    const at = (place + 0.5) / by - 0.5
    const low = Math.floor(at)
    before[place] = edges === 'wrap' ? (low + count) % count : Math.max(0, low)
    after[place] = edges === 'wrap' ? (low + 1) % count : Math.min(count - 1, low + 1)
    share[place] = at - low
  }
  return { before, after, share }
}

/** Means of squares as a picture again, linear between their middles. */
function enlarged(values: Float32Array, width: number, height: number, by: number, edges: Edges): Float32Array {
  const w = width / by
  const h = height / by
  const out = new Float32Array(4 * width * height)
  const columns = between(width, w, by, edges)
  const rows = between(height, h, by, edges)
  const line = new Float32Array(4 * w)
  for (let y = 0; y < height; y++) {
    const above = 4 * w * rows.before[y]
    const below = 4 * w * rows.after[y]
    const v = rows.share[y]
    for (let i = 0; i < line.length; i++) {
      const top = values[above + i]
      line[i] = top + v * (values[below + i] - top)
    }
    let to = 4 * y * width
    for (let x = 0; x < width; x++, to += 4) {
      const left = 4 * columns.before[x]
      const right = 4 * columns.after[x]
      const u = columns.share[x]
      const w0 = 1 - u
      out[to] = line[left] * w0 + line[right] * u
      out[to + 1] = line[left + 1] * w0 + line[right + 1] * u
      out[to + 2] = line[left + 2] * w0 + line[right + 2] * u
      out[to + 3] = line[left + 3] * w0 + line[right + 3] * u
    }
  }
  return out
}

/** A picture blurred by a Gaussian of a standard deviation in px, as three boxes (Wells 1986). */
export function blurred(picture: Picture, sigma: number, edges: Edges): Picture {
  const { width, height } = picture
  if (!(sigma > 0.05) || width * height === 0) return picture
  // Beyond this a blur of either kind is even all over.
  const by = coarserBy(sigma, width, height)
  const w = width / by
  const h = height / by
  // The blur of the reduction itself is subtracted.
  const own = Math.sqrt(Math.max(0, sigma * sigma - (by * by - 1) / 12)) / by
  const radius = Math.min(boxRadius(own), 2 * Math.max(w, h))
  let [from, into]: [Float32Array, Float32Array] = [
    by === 1 ? premultiplied(picture) : reduced(premultiplied(picture), width, height, by),
    new Float32Array(4 * w * h),
  ]
  for (const pass of [alongRows, alongRows, alongRows, alongColumns, alongColumns, alongColumns]) {
    pass(from, into, w, h, radius, edges)
    ;[from, into] = [into, from]
  }
  return straight(by === 1 ? from : enlarged(from, width, height, by, edges), width, height)
}

/** Unsharp masking: adds `amount` times the difference from the blurred picture. */
export function sharpened(picture: Picture, amount: number, sigma: number, edges: Edges): Picture {
  const soft = blurred(picture, sigma, edges)
  if (soft === picture) return picture
  const data = new Uint8ClampedArray(picture.data)
  const away = (value: number, softened: number) => value + amount * (value - softened)
  for (let i = 0; i < data.length; i += 4) {
    const own = picture.data[i + 3]
    const around = soft.data[i + 3]
    const alpha = away(own, around)
    data[i + 3] = alpha
    if (alpha <= 0) continue
    for (let c = 0; c < 3; c++) data[i + c] = away(picture.data[i + c] * own, soft.data[i + c] * around) / alpha
  }
  return { width: picture.width, height: picture.height, data }
}

/**
 * Glow: the pixels brighter than a level, blurred and added as light (screen of Compositing 1). A clear pixel takes the light as alpha, so
 * that the result over any ground is the glow on that ground; grey light is exact, coloured light is opaque by its brightest channel.
 */
export function glowing(picture: Picture, amount: number, sigma: number, level: number, edges: Edges): Picture {
  const { width, height } = picture
  const bright = new Uint8ClampedArray(picture.data)
  const span = Math.max(1, 255 * (1 - level))
  for (let i = 0; i < bright.length; i += 4) {
    // A half transparent pixel gives half its light.
    const alpha = bright[i + 3] / 255
    const most = alpha * Math.max(bright[i], bright[i + 1], bright[i + 2])
    const share = Math.min(1, Math.max(0, (most - 255 * level) / span))
    for (let c = 0; c < 3; c++) bright[i + c] *= share
  }
  const light = blurred({ width, height, data: bright }, sigma, edges)
  const data = new Uint8ClampedArray(picture.data)
  for (let i = 0; i < data.length; i += 4) {
    const strength = (amount * light.data[i + 3]) / 255
    const own = data[i + 3] / 255
    let most = 0
    for (let c = 0; c < 3; c++) most = Math.max(most, Math.min(255, strength * light.data[i + c]))
    if (most === 0) continue
    // Premultiplied: p' = p + l − l·p, and what is behind shows through (1 − a)(1 − l).
    const alpha = 1 - (1 - own) * (1 - most / 255)
    for (let c = 0; c < 3; c++) {
      const added = Math.min(255, strength * light.data[i + c]) / 255
      const shown = (data[i + c] / 255) * own
      data[i + c] = (255 * (shown + added * (1 - shown))) / alpha
    }
    data[i + 3] = 255 * alpha
  }
  return { width, height, data }
}
