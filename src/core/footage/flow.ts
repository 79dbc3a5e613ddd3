import { LINEAR_LIGHT, type Picture, reducePicture } from '../image'

/** A picture of one channel. */
interface Grey {
  readonly width: number
  readonly height: number
  readonly data: Float32Array
}

/** Where each pixel goes, px, across and down. */
export interface Flow {
  readonly width: number
  readonly height: number
  readonly u: Float32Array
  readonly v: Float32Array
}

/** The longest side at which motion is looked for, px, and the one from which on it is so coarse that nothing is left to find. */
const FINEST = 256
const COARSEST = 12
/** At each size both pictures are warped so many times, and the flow is evened out so often after each. */
const WARPS = 4
const ROUNDS = 24
/** How smooth the flow is to be, against differences of grey from 0 to 255. */
const SMOOTH = 60

/** Grey as it is seen (Rec. 709 luma), on black where it is clear. */
function greyOf({ width, height, data }: Picture): Grey {
  const grey = new Float32Array(width * height)
  for (let p = 0, i = 0; p < grey.length; p++, i += 4)
    grey[p] =
      ((0.2126 * (data[i] as number) + 0.7152 * (data[i + 1] as number) + 0.0722 * (data[i + 2] as number)) *
        (data[i + 3] as number)) /
      255
  return { width, height, data: grey }
}

/** Half the size, each pixel the mean of four. */
function halved({ width, height, data }: Grey): Grey {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)]
  const half = new Float32Array(w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const [x1, y1] = [Math.min(width - 1, 2 * x + 1), Math.min(height - 1, 2 * y + 1)]
      const at = (px: number, py: number) => data[py * width + px] as number
      half[y * w + x] = (at(2 * x, 2 * y) + at(x1, 2 * y) + at(2 * x, y1) + at(x1, y1)) / 4
    }
  return { width: w, height: h, data: half }
}

/** What a picture holds at a place between its pixels; beyond its edge, what the edge holds. */
function sample({ width, height, data }: Grey, x: number, y: number): number {
  const cx = Math.min(width - 1, Math.max(0, x))
  const cy = Math.min(height - 1, Math.max(0, y))
  const [x0, y0] = [cx | 0, cy | 0]
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)]
  const [fx, fy] = [cx - x0, cy - y0]
  const top = (data[y0 * width + x0] as number) * (1 - fx) + (data[y0 * width + x1] as number) * fx
  const bottom = (data[y1 * width + x0] as number) * (1 - fx) + (data[y1 * width + x1] as number) * fx
  return top * (1 - fy) + bottom * fy
}

const emptyFlow = ({ width, height }: Grey): Flow => ({
  width,
  height,
  u: new Float32Array(width * height),
  v: new Float32Array(width * height),
})

/** A flow at another size. */
export function resizedFlow(flow: Flow, width: number, height: number): Flow {
  const [sx, sy] = [width / flow.width, height / flow.height]
  const out = { width, height, u: new Float32Array(width * height), v: new Float32Array(width * height) }
  const [u, v] = [
    { ...flow, data: flow.u },
    { ...flow, data: flow.v },
  ]
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const [fx, fy] = [(x + 0.5) / sx - 0.5, (y + 0.5) / sy - 0.5]
      out.u[p] = sx * sample(u, fx, fy)
      out.v[p] = sy * sample(v, fx, fy)
    }
  return out
}

/** Moves a flow on towards one along which both pictures agree (Horn & Schunck 1981, both warped to the moment between them). */
function refine(a: Grey, b: Grey, flow: Flow, w: number): Flow {
  const { width, height } = a
  const count = width * height
  const { u, v } = flow
  const [gx, gy, rest] = [new Float32Array(count), new Float32Array(count), new Float32Array(count)]
  const [wa, wb] = [emptyFlow(a).u, emptyFlow(a).u]
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      wa[p] = sample(a, x - w * (u[p] as number), y - w * (v[p] as number))
      wb[p] = sample(b, x + (1 - w) * (u[p] as number), y + (1 - w) * (v[p] as number))
    }
  const slope = (data: Float32Array, p: number, before: number, after: number) =>
    ((data[after] as number) - (data[before] as number)) / (before === p || after === p ? 1 : 2)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const [l, r] = [x > 0 ? p - 1 : p, x < width - 1 ? p + 1 : p]
      const [t, d] = [y > 0 ? p - width : p, y < height - 1 ? p + width : p]
      gx[p] = (slope(wa, p, l, r) + slope(wb, p, l, r)) / 2
      gy[p] = (slope(wa, p, t, d) + slope(wb, p, t, d)) / 2
      rest[p] = (wb[p] as number) - (wa[p] as number)
    }
  // rest(u + du) ≈ rest + g · du; each round takes the mean of what lies around, and from that the step that the pictures ask for.
  let [nu, nv] = [u.slice(), v.slice()]
  for (let round = 0; round < ROUNDS; round++) {
    const [mu, mv] = [meanAround(nu, width, height), meanAround(nv, width, height)]
    for (let p = 0; p < count; p++) {
      const [x, y] = [gx[p] as number, gy[p] as number]
      const off =
        (rest[p] as number) + x * ((mu[p] as number) - (u[p] as number)) + y * ((mv[p] as number) - (v[p] as number))
      const by = off / (SMOOTH + x * x + y * y)
      mu[p] = (mu[p] as number) - x * by
      mv[p] = (mv[p] as number) - y * by
    }
    nu = mu
    nv = mv
  }
  return { width, height, u: nu, v: nv }
}

/** The mean of the four neighbours of each. */
function meanAround(values: Float32Array, width: number, height: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(values.length)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++)
      out[p] =
        ((values[x > 0 ? p - 1 : p] as number) +
          (values[x < width - 1 ? p + 1 : p] as number) +
          (values[y > 0 ? p - width : p] as number) +
          (values[y < height - 1 ? p + width : p] as number)) /
        4
  return out
}

/**
 * How a picture moves on to another, as seen from a moment between them: what lies at x there came from x − w · flow, and goes to x + (1 − w) · flow. Found from coarse
 * to fine, at no more than 256 px.
 */
export function flowBetween(first: Picture, second: Picture, w: number): Flow {
  const pyramid: (readonly [Grey, Grey])[] = [
    [greyOf(reducePicture(first, FINEST)), greyOf(reducePicture(second, FINEST))],
  ]
  for (;;) {
    const [a, b] = pyramid[0] as readonly [Grey, Grey]
    if (Math.min(a.width, a.height) < 2 * COARSEST) break
    pyramid.unshift([halved(a), halved(b)])
  }
  let flow = emptyFlow((pyramid[0] as readonly [Grey, Grey])[0])
  for (const [a, b] of pyramid) {
    flow = resizedFlow(flow, a.width, a.height)
    for (let warp = 0; warp < WARPS; warp++) flow = refine(a, b, flow, w)
  }
  return flow
}

/** Light of each byte of a picture times alpha, and alpha, between its pixels. */
function lightAt({ width, height, data }: Picture, x: number, y: number, into: Float64Array): void {
  const cx = Math.min(width - 1, Math.max(0, x))
  const cy = Math.min(height - 1, Math.max(0, y))
  const [x0, y0] = [cx | 0, cy | 0]
  into.fill(0)
  for (const [px, py, weight] of [
    [x0, y0, (1 - cx + x0) * (1 - cy + y0)],
    [Math.min(width - 1, x0 + 1), y0, (cx - x0) * (1 - cy + y0)],
    [x0, Math.min(height - 1, y0 + 1), (1 - cx + x0) * (cy - y0)],
    [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1), (cx - x0) * (cy - y0)],
  ] as const) {
    if (weight === 0) continue
    const i = 4 * (py * width + px)
    const alpha = (weight * (data[i + 3] as number)) / 255
    for (let c = 0; c < 3; c++) into[c] = (into[c] as number) + alpha * (LINEAR_LIGHT[data[i + c] as number] as number)
    into[3] = (into[3] as number) + alpha
  }
}

/**
 * A picture on the way from one to another: both moved along the flow between them to where they meet, then mixed in linear light.
 * @param w how far on the way, from 0 to 1
 * @param byteOf the byte of a linear share of light
 */
export function morphed(first: Picture, second: Picture, w: number, byteOf: (light: number) => number): Picture {
  const { width, height } = first
  const { u, v } = resizedFlow(flowBetween(first, second, w), width, height)
  const data = new Uint8ClampedArray(4 * width * height)
  const [a, b] = [new Float64Array(4), new Float64Array(4)]
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const [du, dv] = [u[p] as number, v[p] as number]
      lightAt(first, x - w * du, y - w * dv, a)
      lightAt(second, x + (1 - w) * du, y + (1 - w) * dv, b)
      const alpha = (1 - w) * (a[3] as number) + w * (b[3] as number)
      if (alpha <= 0) continue
      for (let c = 0; c < 3; c++) data[4 * p + c] = byteOf(((1 - w) * (a[c] as number) + w * (b[c] as number)) / alpha)
      data[4 * p + 3] = 255 * alpha
    }
  return { width, height, data }
}
