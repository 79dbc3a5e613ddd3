import { type Matrix, scaleOf } from '../path'

/** One stroke of a round brush. */
export interface BrushStroke {
  /** Diameter at full pressure, px of the layer. */
  readonly size: number
  /** 0 a sharp edge, 1 one that fades from the middle. */
  readonly softness: number
  /** How much of what is painted on it covers, 0 … 1. */
  readonly strength: number
  /** True for a stroke that erases. */
  readonly erases?: true
  /** x, y (px of the layer) and pressure (0 … 1) of its points, one after the other. */
  readonly points: readonly number[]
}

/** Share of the size that is left at the lightest pressure. */
const THINNEST = 0.15

/** How far a stroke covers each pixel, 0 … 1, is the most that any of its parts does: it never builds up on itself. */
function cover(into: Float32Array, width: number, height: number, stroke: BrushStroke, matrix: Matrix): Bounds {
  const scale = scaleOf(matrix)
  const [a, b, c, d, e, f] = matrix
  const { points, softness } = stroke
  const count = Math.floor(points.length / 3)
  const at = (n: number) => {
    const x = points[3 * n]
    const y = points[3 * n + 1]
    const pressure = points[3 * n + 2]
    const radius = (stroke.size / 2) * scale * (THINNEST + (1 - THINNEST) * pressure)
    return { x: a * x + c * y + e, y: b * x + d * y + f, radius }
  }
  const bounds: Bounds = { left: width, top: height, right: 0, bottom: 0 }
  for (let n = 0; n < Math.max(1, count - 1) && count > 0; n++) {
    const from = at(n)
    const to = at(Math.min(count - 1, n + 1))
    const most = Math.max(from.radius, to.radius) + 1
    const left = Math.max(0, Math.floor(Math.min(from.x, to.x) - most))
    const right = Math.min(width, Math.ceil(Math.max(from.x, to.x) + most))
    const top = Math.max(0, Math.floor(Math.min(from.y, to.y) - most))
    const bottom = Math.min(height, Math.ceil(Math.max(from.y, to.y) + most))
    const dx = to.x - from.x
    const dy = to.y - from.y
    const square = dx * dx + dy * dy
    for (let y = top; y < bottom; y++)
      for (let x = left; x < right; x++) {
        const px = x + 0.5 - from.x
        const py = y + 0.5 - from.y
        const t = square > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / square)) : 0
        const radius = from.radius + t * (to.radius - from.radius)
        const away = Math.hypot(px - t * dx, py - t * dy)
        // A sharp edge is a pixel wide.
        const fade = Math.max(1, softness * radius)
        const share = Math.min(1, (radius + 0.5 - away) / fade)
        if (share <= 0) continue
        const value = share * share * (3 - 2 * share)
        const i = y * width + x
        if (value > into[i]) into[i] = value
      }
    bounds.left = Math.min(bounds.left, left)
    bounds.top = Math.min(bounds.top, top)
    bounds.right = Math.max(bounds.right, right)
    bounds.bottom = Math.max(bounds.bottom, bottom)
  }
  return bounds
}

interface Bounds {
  left: number
  top: number
  right: number
  bottom: number
}

/** How far strokes, painted one over the other, cover each pixel of a picture, 0 … 255; nothing painted covers nothing. */
export function strokesCover(
  strokes: readonly BrushStroke[],
  width: number,
  height: number,
  matrix: Matrix,
): Uint8ClampedArray {
  const all = new Float32Array(width * height)
  const one = new Float32Array(width * height)
  for (const stroke of strokes) {
    const { left, top, right, bottom } = cover(one, width, height, stroke, matrix)
    for (let y = top; y < bottom; y++)
      for (let x = left; x < right; x++) {
        const i = y * width + x
        const share = stroke.strength * one[i]
        one[i] = 0
        const before = all[i]
        all[i] = stroke.erases ? before * (1 - share) : before + share * (1 - before)
      }
  }
  return Uint8ClampedArray.from(all, (share) => 255 * share)
}

/** The square of how far a point lies from the line between two others. */
function offLine(points: readonly number[], n: number, from: number, to: number): number {
  const at = (i: number, k: number) => points[3 * i + k]
  const dx = at(to, 0) - at(from, 0)
  const dy = at(to, 1) - at(from, 1)
  const px = at(n, 0) - at(from, 0)
  const py = at(n, 1) - at(from, 1)
  const square = dx * dx + dy * dy
  const t = square > 0 ? Math.min(1, Math.max(0, (px * dx + py * dy) / square)) : 0
  const pressure = at(from, 2) + t * (at(to, 2) - at(from, 2))
  return (px - t * dx) ** 2 + (py - t * dy) ** 2 + (PRESSURE_PX * (at(n, 2) - pressure)) ** 2
}

/** A full change of pressure counts as a way of this many px. */
const PRESSURE_PX = 8

/** A stroke is thinned further where it would have more points than this. */
export const MAX_STROKE_POINTS = 2000

/**
 * The points of a stroke that are needed to stay within a tolerance, px, of all, rounded; a larger one where there would still be too many.
 */
export function thinnedStroke(points: readonly number[], tolerance: number): number[] {
  const thinned = within(points, tolerance)
  return thinned.length <= 3 * MAX_STROKE_POINTS ? thinned : thinnedStroke(points, 2 * tolerance)
}

/** Ramer 1972; Douglas & Peucker 1973. */
function within(points: readonly number[], tolerance: number): number[] {
  const count = Math.floor(points.length / 3)
  const kept = new Set([0, count - 1])
  const open: [number, number][] = [[0, count - 1]]
  for (let span = open.pop(); span; span = open.pop()) {
    const [from, to] = span
    let worst = tolerance * tolerance
    let at = -1
    for (let n = from + 1; n < to; n++) {
      const off = offLine(points, n, from, to)
      if (off > worst) {
        worst = off
        at = n
      }
    }
    if (at < 0) continue
    kept.add(at)
    open.push([from, at], [at, to])
  }
  return [...kept]
    .filter((n) => n >= 0)
    .sort((a, b) => a - b)
    .flatMap((n) => [
      Number(points[3 * n].toFixed(1)),
      Number(points[3 * n + 1].toFixed(1)),
      Number(points[3 * n + 2].toFixed(2)),
    ])
}
