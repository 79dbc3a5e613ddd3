import simplify from 'simplify-js'
import type { Path, PathSegment, Point } from './path'

/** A point set with a pen: where the curve leaves it, as an offset; it comes in from the opposite side. */
export interface PenPoint extends Point {
  readonly handle: Point
}

/** The path through points set with a pen, straight where neither end has a handle. */
export function penPath(points: readonly PenPoint[], closed: boolean): Path {
  const [first] = points
  if (!first) return []
  const to = (a: PenPoint, b: PenPoint): PathSegment =>
    Math.hypot(a.handle.x, a.handle.y) + Math.hypot(b.handle.x, b.handle.y) < 1e-9
      ? ['L', b.x, b.y]
      : ['C', a.x + a.handle.x, a.y + a.handle.y, b.x - b.handle.x, b.y - b.handle.y, b.x, b.y]
  const path: PathSegment[] = [['M', first.x, first.y]]
  for (const [i, point] of points.slice(1).entries()) path.push(to(points[i] as PenPoint, point))
  if (!closed || points.length < 2) return path
  const back = to(points.at(-1) as PenPoint, first)
  return back[0] === 'L' ? [...path, ['Z']] : [...path, back, ['Z']]
}

/**
 * A smooth path along points drawn freehand, thinned within a tolerance in px (Ramer–Douglas–Peucker) and joined by
 * cubic curves (Catmull–Rom).
 */
export function freehandPath(points: readonly Point[], tolerance: number, closed: boolean): Path {
  const thin = simplify([...points], tolerance, true)
  const count = thin.length
  const at = (i: number): Point => thin[closed ? (i + count) % count : Math.min(count - 1, Math.max(0, i))] as Point
  const pen = thin.map((point, i): PenPoint => {
    const before = at(i - 1)
    const after = at(i + 1)
    return { x: point.x, y: point.y, handle: { x: (after.x - before.x) / 6, y: (after.y - before.y) / 6 } }
  })
  return penPath(pen, closed)
}
