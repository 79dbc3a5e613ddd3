import { type Channel, channelOf } from './colours'

/** A curve from shares to shares by points on it, one after the other across; flat before the first and after the last. */
export type Curve = readonly (readonly [x: number, y: number])[]

export const STRAIGHT: Curve = [
  [0, 0],
  [1, 1],
]

export const isStraight = (curve: Curve): boolean => curve.every(([x, y]) => x === y) && curve.length > 1

/**
 * The value of a curve at a share: cubic between its points and never over or under them where they only rise or only fall
 * (Fritsch & Carlson 1980, with the slopes of Steffen 1990).
 */
export function curveAt(curve: Curve, x: number): number {
  const last = curve.length - 1
  if (last < 0) return x
  const first = curve[0]
  const final = curve[last]
  if (x <= first[0]) return first[1]
  if (x >= final[0]) return final[1]
  let i = 0
  while (x > curve[i + 1][0]) i++
  const [x0, y0] = curve[i]
  const [x1, y1] = curve[i + 1]
  const h = x1 - x0
  const t = (x - x0) / h
  const slope = (y1 - y0) / h
  const a = slopeAt(curve, i)
  const b = slopeAt(curve, i + 1)
  // Hermite's form.
  return y0 + h * t * (a + t * (3 * slope - 2 * a - b + t * (a + b - 2 * slope)))
}

/** The slope of a curve at one of its points (Steffen 1990). */
function slopeAt(curve: Curve, i: number): number {
  const at = (n: number) => curve[n]
  const steep = (n: number) => (at(n + 1)[1] - at(n)[1]) / (at(n + 1)[0] - at(n)[0])
  if (i === 0) return steep(0)
  if (i === curve.length - 1) return steep(i - 1)
  const before = steep(i - 1)
  const after = steep(i)
  const left = at(i)[0] - at(i - 1)[0]
  const right = at(i + 1)[0] - at(i)[0]
  const mean = (before * right + after * left) / (left + right)
  const sign = Math.sign(before) + Math.sign(after)
  return sign * Math.min(Math.abs(before), Math.abs(after), Math.abs(mean) / 2)
}

/** A curve as a table of a channel. */
export const channelOfCurve = (curve: Curve): Channel => channelOf((value) => curveAt(curve, value))

/** The greatest distance of two curves, at even steps. */
export function curveDistance(a: Curve, b: Curve): number {
  let most = 0
  for (let step = 0; step <= 64; step++) most = Math.max(most, Math.abs(curveAt(a, step / 64) - curveAt(b, step / 64)))
  return most
}

const bounded = (y: number) => Math.min(1, Math.max(0, y))

/** A curve between two, t = 0 giving the first: with points wherever either has one. */
export function mixCurves(a: Curve, b: Curve, t: number): Curve {
  if (t === 0) return a
  if (t === 1) return b
  const places = [...new Set([...a, ...b].map(([x]) => x))].sort((x, y) => x - y)
  return places.map((x) => [x, bounded(curveAt(a, x) * (1 - t) + curveAt(b, x) * t)] as const)
}
