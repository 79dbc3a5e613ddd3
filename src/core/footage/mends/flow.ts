import { byteOfLight, LINEAR_LIGHT, type Picture, reducePicture } from '../../image'
import type { Smoothed } from '../look/grain'
import { type Grey, greyOf, halved, sample } from '../look/grey'

/** Where each pixel goes, px, across and down. */
export interface Flow {
  readonly width: number
  readonly height: number
  readonly u: Float32Array
  readonly v: Float32Array
}

/** The longest side at which motion is looked for, px, and the one from which on it is so coarse that nothing is left to find. */
const MAX_FLOW_PX = 192
const MIN_FLOW_PX = 12
/** Warps of both pictures at each size, and rounds of smoothing after each warp. */
const WARPS = 3
const ROUNDS = 20
/** How smooth the flow is to be, against differences of grey from 0 to 255. */
const SMOOTH = 60

const emptyFlow = ({ width, height }: Grey): Flow => ({
  width,
  height,
  u: new Float32Array(width * height),
  v: new Float32Array(width * height),
})

/** A flow at another size. */
function resizedFlow(flow: Flow, width: number, height: number): Flow {
  const sx = width / flow.width
  const sy = height / flow.height
  const out = { width, height, u: new Float32Array(width * height), v: new Float32Array(width * height) }
  const u = { ...flow, data: flow.u }
  const v = { ...flow, data: flow.v }
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const fx = (x + 0.5) / sx - 0.5
      const fy = (y + 0.5) / sy - 0.5
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
  const gx = new Float32Array(count)
  const gy = new Float32Array(count)
  const rest = new Float32Array(count)
  const wa = emptyFlow(a).u
  const wb = emptyFlow(a).u
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      wa[p] = sample(a, x - w * u[p], y - w * v[p])
      wb[p] = sample(b, x + (1 - w) * u[p], y + (1 - w) * v[p])
    }
  const slope = (data: Float32Array, p: number, before: number, after: number) =>
    (data[after] - data[before]) / (before === p || after === p ? 1 : 2)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const l = x > 0 ? p - 1 : p
      const r = x < width - 1 ? p + 1 : p
      const t = y > 0 ? p - width : p
      const d = y < height - 1 ? p + width : p
      gx[p] = (slope(wa, p, l, r) + slope(wb, p, l, r)) / 2
      gy[p] = (slope(wa, p, t, d) + slope(wb, p, t, d)) / 2
      rest[p] = wb[p] - wa[p]
    }
  // rest(u + du) ≈ rest + g · du; each round takes the mean of what lies around, and from that the step that the pictures ask for.
  const weight = gx.map((x, p) => 1 / (SMOOTH + x * x + gy[p] * gy[p]))
  // As much of rest as u itself has answered.
  for (let p = 0; p < count; p++) rest[p] = rest[p] - gx[p] * u[p] - gy[p] * v[p]
  let nu = u.slice()
  let nv = v.slice()
  let mu = new Float32Array(count)
  let mv = new Float32Array(count)
  for (let round = 0; round < ROUNDS; round++) {
    putMeans(nu, mu, width, height)
    putMeans(nv, mv, width, height)
    for (let p = 0; p < count; p++) {
      const x = gx[p]
      const y = gy[p]
      const by = (rest[p] + x * mu[p] + y * mv[p]) * weight[p]
      mu[p] -= x * by
      mv[p] -= y * by
    }
    ;[nu, mu, nv, mv] = [mu, nu, mv, nv]
  }
  return { width, height, u: nu, v: nv }
}

/** Puts the mean of the four neighbours of each into another list. */
function putMeans(values: Float32Array, into: Float32Array, width: number, height: number): void {
  for (let y = 0, p = 0; y < height; y++) {
    const up = y > 0 ? -width : 0
    const down = y < height - 1 ? width : 0
    for (let x = 0; x < width; x++, p++) {
      const left = x > 0 ? values[p - 1] : values[p]
      const right = x < width - 1 ? values[p + 1] : values[p]
      into[p] = ((left as number) + (right as number) + values[p + up] + values[p + down]) / 4
    }
  }
}

/** How far about each place flows are held against each other, and against none, in rounds of means. */
const ABOUT = { other: 24, none: 12 }
/**
 * Two flows fit equally well if their residuals differ by at most `besides`, of 255; the one that is shorter by the
 * share `shorter` is taken. A flow fits better below `times` the other residual, less `besides`.
 */
const AS_WELL = { besides: 0.1, shorter: 0.4 }
const BETTER = { times: 0.75, besides: 0.3 }

/** How far both pictures are apart about each place where they are moved along a flow, of 255. */
function apartBy(a: Grey, b: Grey, { width, height, u, v }: Flow, w: number, about: number): Float32Array {
  let apart = new Float32Array(u.length)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const du = u[p]
      const dv = v[p]
      apart[p] = Math.abs(sample(a, x - w * du, y - w * dv) - sample(b, x + (1 - w) * du, y + (1 - w) * dv))
    }
  let spare = new Float32Array(u.length)
  for (let round = 0; round < about; round++) {
    putMeans(apart, spare, width, height)
    ;[apart, spare] = [spare, apart]
  }
  return apart
}

/** The flow of coarser sizes; and another where both pictures agree better along that, or as well and it is shorter: stripes agree again after every stripe, and the nearest is meant. */
function likelier(a: Grey, b: Grey, coarser: Flow, other: Flow, w: number): Flow {
  const apart = apartBy(a, b, coarser, w, ABOUT.other)
  const otherwise = apartBy(a, b, other, w, ABOUT.other)
  const takes = apart.map((off, p) => {
    const by = otherwise[p]
    const [length, instead] = [coarser, other].map(({ u, v }) => Math.hypot(u[p], v[p])) as [number, number]
    const better = by < BETTER.times * off - BETTER.besides
    const asWell = by < off + AS_WELL.besides && instead < AS_WELL.shorter * length
    return better || asWell ? 1 : 0
  })
  return {
    ...coarser,
    u: coarser.u.map((x, p) => (takes[p] ? other.u[p] : x)),
    v: coarser.v.map((y, p) => (takes[p] ? other.v[p] : y)),
  }
}

/**
 * A flow where it brings both pictures nearer to each other than they are where they lie, and none where it does not: at coarse sizes what is finely striped looks like something else, and what
 * has nothing in common goes nowhere.
 */
function believed(a: Grey, b: Grey, flow: Flow, w: number): Flow {
  const moved = apartBy(a, b, flow, w, ABOUT.none)
  const still = apartBy(a, b, emptyFlow(a), w, ABOUT.none)
  // Halved where it helps by a quarter, whole where it does by half.
  const share = moved.map((off, p) => Math.max(0, Math.min(1, 2 * (1 - off / Math.max(0.5, still[p])))))
  const { u, v } = flow
  return { ...flow, u: u.map((x, p) => x * share[p]), v: v.map((y, p) => y * share[p]) }
}

/**
 * How a picture moves on to another, as seen from a moment between them: what lies at x there came from x − w · flow, and goes to x + (1 − w) · flow. Found from coarse
 * to fine, at no more than 192 px.
 */
export function flowBetween(first: Picture, second: Picture, w: number): Flow {
  const pyramid: (readonly [Grey, Grey])[] = [
    [greyOf(reducePicture(first, MAX_FLOW_PX)), greyOf(reducePicture(second, MAX_FLOW_PX))],
  ]
  for (;;) {
    const [a, b] = pyramid[0]
    if (Math.min(a.width, a.height) < 2 * MIN_FLOW_PX) break
    pyramid.unshift([halved(a), halved(b)])
  }
  let flow = emptyFlow(pyramid[0][0])
  for (const [a, b] of pyramid) {
    flow = resizedFlow(flow, a.width, a.height)
    const refined = (from: Flow) => {
      let to = from
      for (let warp = 0; warp < WARPS; warp++) to = refine(a, b, to, w)
      return to
    }
    // The flow refined from coarser sizes, or the one found at this size alone.
    flow = likelier(a, b, refined(flow), refined(emptyFlow(a)), w)
    flow = believed(a, b, refined(flow), w)
  }
  return flow
}

/** Adds a weighted pixel: its light times its alpha, and its alpha. */
function addLight(data: Uint8ClampedArray, i: number, weight: number, into: Float64Array): void {
  const alpha = (weight * data[i + 3]) / 255
  into[0] += alpha * LINEAR_LIGHT[data[i]]
  into[1] += alpha * LINEAR_LIGHT[data[i + 1]]
  into[2] += alpha * LINEAR_LIGHT[data[i + 2]]
  into[3] += alpha
}

/**
 * Adds a weighted sample between the pixels of a picture; beyond its edge, of the edge.
 * @returns the share of the grain's variance that the sample has: the sum of the squares of all weights
 */
function addLightAt(
  { width, height, data }: Picture,
  x: number,
  y: number,
  weight: number,
  into: Float64Array,
): number {
  const cx = Math.max(0, Math.min(x, width - 1))
  const cy = Math.max(0, Math.min(y, height - 1))
  const x0 = cx | 0
  const y0 = cy | 0
  const at = 4 * (y0 * width + x0)
  const right = x0 < width - 1 ? 4 : 0
  const below = y0 < height - 1 ? 4 * width : 0
  const fx = cx - x0
  const fy = cy - y0
  addLight(data, at, weight * (1 - fx) * (1 - fy), into)
  addLight(data, at + right, weight * fx * (1 - fy), into)
  addLight(data, at + below, weight * (1 - fx) * fy, into)
  addLight(data, at + below + right, weight * fx * fy, into)
  return weight * weight * (fx * fx + (1 - fx) * (1 - fx)) * (fy * fy + (1 - fy) * (1 - fy))
}

/**
 * A picture on the way from one to another: both moved along the flow between them to where they meet, then mixed in linear light.
 * @param w how far on the way, from 0 to 1
 */
export function morphed(first: Picture, second: Picture, w: number): Smoothed {
  const { width, height } = first
  const { u, v } = resizedFlow(flowBetween(first, second, w), width, height)
  const data = new Uint8ClampedArray(4 * width * height)
  const left = new Float32Array(width * height)
  const light = new Float64Array(4)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const du = u[p]
      const dv = v[p]
      light.fill(0)
      left[p] =
        addLightAt(first, x - w * du, y - w * dv, 1 - w, light) +
        addLightAt(second, x + (1 - w) * du, y + (1 - w) * dv, w, light)
      const alpha = light[3]
      if (alpha <= 0) continue
      for (let c = 0; c < 3; c++) data[4 * p + c] = byteOfLight(light[c] / alpha)
      data[4 * p + 3] = 255 * alpha
    }
  return { picture: { width, height, data }, left }
}
