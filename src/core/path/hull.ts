import { polygonArea, polygonHull } from 'd3-polygon'
import { modulo } from '../modulo'
import { type Path, type PathSegment, type Point, polygonPath } from './path'
import { pathRuler } from './ruler'

/** A drum that a belt runs round. */
export interface Circle extends Point {
  readonly radius: number
}

const TURN = 2 * Math.PI
/** Arcs are drawn in parts of up to an eighth of a turn. */
const EIGHTH = TURN / 8

function arc({ x, y, radius }: Circle, from: number, sweep: number): PathSegment[] {
  const parts = Math.max(1, Math.ceil(sweep / EIGHTH - 1e-9))
  const part = sweep / parts
  const handle = (4 / 3) * Math.tan(part / 4) * radius
  return Array.from({ length: parts }, (_, i): PathSegment => {
    const a = from + i * part
    const b = from + (i + 1) * part
    return [
      'C',
      x + radius * Math.cos(a) - handle * Math.sin(a),
      y + radius * Math.sin(a) + handle * Math.cos(a),
      x + radius * Math.cos(b) + handle * Math.sin(b),
      y + radius * Math.sin(b) - handle * Math.cos(b),
      x + radius * Math.cos(b),
      y + radius * Math.sin(b),
    ]
  })
}

/** The direction, as an angle, in which the outer tangent of two circles touches both, on the left of the way from one to the other as the y axis points down. */
function tangentAngle(from: Circle, to: Circle): number {
  const dx = to.x - from.x
  const dy = to.y - from.y
  const lean = Math.acos(Math.min(1, Math.max(-1, (from.radius - to.radius) / Math.hypot(dx, dy))))
  return Math.atan2(dy, dx) - lean
}

/**
 * The path of a belt that runs tightly round circles, clockwise: arcs on the outermost of them, joined by their outer
 * tangents. Circles that lie inside others are not touched. Empty where there are none.
 */
export function beltPath(circles: readonly Circle[]): Path {
  const order = outermost(circles)
  const [first] = order
  if (!first) return []
  if (order.length === 1) return [['M', first.x + first.radius, first.y], ...arc(first, 0, TURN), ['Z']]
  const path: PathSegment[] = []
  for (const [i, circle] of order.entries()) {
    const before = order[(i - 1 + order.length) % order.length] as Circle
    const after = order[(i + 1) % order.length] as Circle
    const from = tangentAngle(before, circle)
    const to = tangentAngle(circle, after)
    const sweep = modulo(to - from, TURN)
    const start: Point = { x: circle.x + circle.radius * Math.cos(from), y: circle.y + circle.radius * Math.sin(from) }
    path.push([i === 0 ? 'M' : 'L', start.x, start.y])
    if (sweep > 1e-9) path.push(...arc(circle, from, sweep))
  }
  return [...path, ['Z']]
}

const SAMPLES = 180

/** The circles that a belt touches, in the order in which it does, clockwise; one twice where it comes back to it. */
function outermost(circles: readonly Circle[]): Circle[] {
  if (circles.length < 2) return [...circles]
  const owners = new Map<string, Circle>()
  const points = circles.flatMap((circle) =>
    Array.from({ length: SAMPLES }, (_, i): [number, number] => {
      const angle = (i / SAMPLES) * TURN
      const point: [number, number] = [
        circle.x + circle.radius * Math.cos(angle),
        circle.y + circle.radius * Math.sin(angle),
      ]
      owners.set(point.join(), circle)
      return point
    }),
  )
  const around = hullOf(points).map((point) => owners.get(point.join()) as Circle)
  const runs = around.filter((circle, i) => circle !== around[(i - 1 + around.length) % around.length])
  return runs.length > 0 ? runs : around.slice(0, 1)
}

/** The convex hull of points, clockwise where the y axis points down. */
function hullOf(points: [number, number][]): [number, number][] {
  const hull = polygonHull(points) ?? []
  return polygonArea(hull) < 0 ? hull : [...hull].reverse()
}

/** A tight path round any outlines: their convex hull, from points along them. */
export function hullPath(outlines: readonly Path[]): Path {
  const points = outlines.flatMap((outline) => {
    const ruler = pathRuler(outline)
    return Array.from({ length: SAMPLES }, (_, i): [number, number] => {
      const { x, y } = ruler.at((i / SAMPLES) * ruler.length)
      return [x, y]
    })
  })
  if (points.length === 0) return []
  return polygonPath(hullOf(points).map(([x, y]) => ({ x, y })))
}
