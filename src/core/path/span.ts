import type { Path, PathSegment, Point } from './path'

export type Cubic = readonly [Point, Point, Point, Point]
/** A line or curve of a path, with its length in px. */
export interface PathPiece {
  readonly curve: Cubic
  readonly straight: boolean
  readonly length: number
}

const lerp = (a: Point, b: Point, t: number): Point => ({ x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t })

/** De Casteljau: the two halves of a cubic at t. */
function split([p0, p1, p2, p3]: Cubic, t: number): readonly [Cubic, Cubic] {
  const a = lerp(p0, p1, t)
  const b = lerp(p1, p2, t)
  const c = lerp(p2, p3, t)
  const d = lerp(a, b, t)
  const e = lerp(b, c, t)
  const f = lerp(d, e, t)
  return [
    [p0, a, d, f],
    [f, e, c, p3],
  ]
}

/** |B′(t)| of a cubic. */
export const cubicSpeed = ([p0, p1, p2, p3]: Cubic, t: number) => {
  const s = 1 - t
  const part = (a: number, b: number, c: number, d: number) =>
    3 * (s * s * (b - a) + 2 * s * t * (c - b) + t * t * (d - c))
  return Math.hypot(part(p0.x, p1.x, p2.x, p3.x), part(p0.y, p1.y, p2.y, p3.y))
}

/** Gauss–Legendre nodes and weights on [−1, 1], five points. */
export const GAUSS = [
  [0, 0.5688888888888889],
  [-0.5384693101056831, 0.47862867049936647],
  [0.5384693101056831, 0.47862867049936647],
  [-0.906179845938664, 0.23692688505618908],
  [0.906179845938664, 0.23692688505618908],
] as const

/** Arc length of a cubic from 0 to t, by Gauss–Legendre quadrature on eight parts. */
function lengthTo(curve: Cubic, t: number): number {
  const parts = 8
  let sum = 0
  for (let i = 0; i < parts; i++)
    for (const [node, weight] of GAUSS)
      sum += (weight * cubicSpeed(curve, ((i + (node + 1) / 2) / parts) * t) * t) / (2 * parts)
  return sum
}

/** The parameter at which a share of a cubic's length is reached: Newton from the share, kept in range. */
function parameterAt({ curve, length, straight }: PathPiece, share: number): number {
  if (straight || share <= 0 || share >= 1) return Math.min(1, Math.max(0, share))
  let t = share
  for (let i = 0; i < 12; i++) {
    const error = lengthTo(curve, t) - share * length
    const slope = cubicSpeed(curve, t)
    if (Math.abs(error) < 1e-9 * length || slope === 0) break
    t = Math.min(1, Math.max(0, t - error / slope))
  }
  return t
}

/** The lines and curves of a path in order; those without length are left out. */
export function pathPieces(path: Path): PathPiece[] {
  const found: PathPiece[] = []
  let start: Point = { x: 0, y: 0 }
  let at = start
  const line = (to: Point) => {
    const length = Math.hypot(to.x - at.x, to.y - at.y)
    if (length > 0) found.push({ curve: [at, lerp(at, to, 1 / 3), lerp(at, to, 2 / 3), to], straight: true, length })
    at = to
  }
  for (const segment of path) {
    if (segment[0] === 'M') start = at = { x: segment[1], y: segment[2] }
    else if (segment[0] === 'L') line({ x: segment[1], y: segment[2] })
    else if (segment[0] === 'Z') line(start)
    else {
      const [, x1, y1, x2, y2, x, y] = segment
      const curve: Cubic = [at, { x: x1, y: y1 }, { x: x2, y: y2 }, { x, y }]
      const length = lengthTo(curve, 1)
      if (length > 0) found.push({ curve, straight: false, length })
      at = { x, y }
    }
  }
  return found
}

/** Length of a path in px. */
export const pathLength = (path: Path): number => pathPieces(path).reduce((sum, piece) => sum + piece.length, 0)

const SNAP = 1e-9

/**
 * The span of a path from `start` to `end`, both in shares of its length and moved on by `offset`. Positions count
 * round and round: on a closed path a span runs across the path's own start without a gap, on an open one it goes
 * on from the other end. A span of a whole length or more is the whole path; one that ends before it starts is empty.
 */
export function pathSpan(path: Path, start: number, end: number, offset = 0): Path {
  const share = end - start
  if (share >= 1 - SNAP) return path
  if (share <= 0) return []
  const all = pathPieces(path)
  const total = all.reduce((sum, piece) => sum + piece.length, 0)
  if (total === 0) return []
  const whole = Math.floor(start + offset + SNAP)
  const from = Math.max(0, start + offset - whole)
  const to = from + share
  if (to <= 1) return cut(all, from * total, to * total)
  const tail = cut(all, from * total, total)
  const head = cut(all, 0, (to - 1) * total)
  const closed = path[path.length - 1]?.[0] === 'Z'
  return closed ? [...tail, ...head.slice(1)] : [...tail, ...head]
}

function cut(all: readonly PathPiece[], from: number, to: number): Path {
  const path: PathSegment[] = []
  let position = 0
  for (const piece of all) {
    const a = (from - position) / piece.length
    const b = (to - position) / piece.length
    position += piece.length
    if (b <= SNAP || a >= 1 - SNAP) continue
    const tb = parameterAt(piece, b)
    const ta = parameterAt(piece, a)
    let part: Cubic = tb < 1 ? split(piece.curve, tb)[0] : piece.curve
    if (ta > 0) part = split(part, ta / tb)[1]
    const [p0, p1, p2, p3] = part
    if (path.length === 0) path.push(['M', p0.x, p0.y])
    path.push(piece.straight ? ['L', p3.x, p3.y] : ['C', p1.x, p1.y, p2.x, p2.y, p3.x, p3.y])
  }
  return path
}
