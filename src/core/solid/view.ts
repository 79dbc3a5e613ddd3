import { add, cross, dot, lengthOf, scaled, subtract, turned, unit, type Vector } from './mesh'
import { type Placement, placedIn } from './model'

/** How a model turns: about an axis through a pivot of its own, and how far all of that leans to its side. Afterwards the pivot is the origin. */
export interface Turn {
  readonly pivot: Vector
  /** Of length 1. */
  readonly axis: Vector
  /** Degrees, clockwise as the camera sees it from the front. */
  readonly lean: number
}

const radians = (degrees: number): number => (degrees * Math.PI) / 180
const FRONT: Vector = [0, 0, 1]
const ORIGIN: Vector = [0, 0, 0]

/** A rotation about an axis of length 1, by radians. */
export function rotation(axis: Vector, angle: number): Placement {
  const columns = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map((column) => turned(column as unknown as Vector, ORIGIN, axis, angle))
  return [...columns.flatMap((column) => [...column, 0]), 0, 0, 0, 1]
}

export const translation = ([x, y, z]: Vector): Placement => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1]

export const scaling = ([x, y, z]: Vector): Placement => [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, 0, 0, 0, 1]

/** Where a placement puts a point. */
export const placed = (at: Placement, [x, y, z]: Vector): Vector =>
  [0, 1, 2].map(
    (row) =>
      (at[row] as number) * x + (at[4 + row] as number) * y + (at[8 + row] as number) * z + (at[12 + row] as number),
  ) as unknown as Vector

/** The axis as the lean leaves it. */
export const leaningAxis = ({ axis, lean }: Turn): Vector => turned(axis, ORIGIN, FRONT, -radians(lean))

/** Where a model stands that has turned by so many degrees. */
export const turnedBy = (turn: Turn, degrees: number): Placement =>
  placedIn(
    rotation(FRONT, -radians(turn.lean)),
    placedIn(rotation(turn.axis, radians(degrees % 360)), translation(scaled(turn.pivot, -1))),
  )

/** The circle that a point goes round: its height along the axis, from the pivot, and its radius. */
function circleOf(points: ArrayLike<number>, i: number, { pivot, axis }: Turn) {
  const from: Vector = [
    (points[i] as number) - pivot[0],
    (points[i + 1] as number) - pivot[1],
    (points[i + 2] as number) - pivot[2],
  ]
  const height = dot(from, axis)
  return { height, radius: Math.sqrt(Math.max(0, dot(from, from) - height * height)) }
}

/**
 * How far points that turn reach in a direction, which need not be of length 1: the greatest product with it at any angle. A point goes round
 * a circle about the axis, so that is where the direction meets it.
 * @param points x, y, z one after the other, in the model's own coordinates
 */
export function reach(points: ArrayLike<number>, turn: Turn, direction: Vector): number {
  const axis = turn.axis
  // What leans is looked at as if it did not, by a direction that leans the other way.
  const own = turned(direction, ORIGIN, FRONT, radians(turn.lean))
  const along = dot(own, axis)
  const across = lengthOf(subtract(own, scaled(axis, along)))
  let most = Number.NEGATIVE_INFINITY
  for (let i = 0; i + 2 < points.length; i += 3) {
    const { height, radius } = circleOf(points, i, turn)
    most = Math.max(most, height * along + radius * across)
  }
  return most
}

/** A camera that looks along a direction: perspective with a field of view, or parallel. */
export interface Camera {
  readonly from: Vector
  readonly at: Vector
  readonly up: Vector
  /** Of the height, radians; null is parallel. */
  readonly fieldOfView: number | null
  /** Units of the scene that fill the height of the frame at `at`. */
  readonly height: number
}

/** Right, up and forward of a camera, each of length 1. */
export function axesOf({ from, at, up }: Pick<Camera, 'from' | 'at' | 'up'>) {
  const forward = unit(subtract(at, from))
  const right = unit(cross(forward, up))
  return { forward, right, up: cross(right, forward) }
}

/** Where a camera shows a point in a frame, px from its upper left; null behind the camera. */
export function projected(
  point: Vector,
  camera: Camera,
  width: number,
  height: number,
): { readonly x: number; readonly y: number } | null {
  const { forward, right, up } = axesOf(camera)
  const from = subtract(point, camera.from)
  const depth = dot(from, forward)
  if (camera.fieldOfView !== null && !(depth > 0)) return null
  const scale =
    camera.fieldOfView === null ? height / camera.height : height / 2 / (Math.tan(camera.fieldOfView / 2) * depth)
  return { x: width / 2 + dot(from, right) * scale, y: height / 2 - dot(from, up) * scale }
}

/** From where a camera looks at a model. Degrees. */
export interface Sight {
  /** About the upright axis: 0 is from the front, 90 from its right. */
  readonly around: number
  /** Above the horizon. */
  readonly height: number
  readonly roll: number
  /** Of the height of the frame; null is parallel. */
  readonly fieldOfView: number | null
}

/** The way a camera looks, and what is up for it. */
export function directionOf({ around, height, roll }: Sight): { readonly forward: Vector; readonly up: Vector } {
  const [a, h] = [radians(around), radians(height)]
  const forward: Vector = [-Math.sin(a) * Math.cos(h), -Math.sin(h), -Math.cos(a) * Math.cos(h)]
  // Straight from above or below, what is up is what lies behind.
  const upright: Vector = [-Math.sin(a) * Math.sin(h), Math.cos(h), -Math.cos(a) * Math.sin(h)]
  return { forward, up: turned(upright, ORIGIN, forward, radians(roll)) }
}

/** The part of a frame that is to hold the whole turn, px. */
export interface FrameGuide {
  readonly width: number
  readonly height: number
  /** On the left and the right, and above and below. */
  readonly marginX: number
  readonly marginY: number
}

/** A camera is never nearer to a model than this share of how far that reaches. */
const NEAREST = 1e-3

/**
 * A camera that holds all of a turn within a guide, which it touches: its distance and its shift follow from how far the turning points reach along the
 * normals of the four planes through the camera and the edges of the guide.
 */
export function fittedCamera(points: ArrayLike<number>, turn: Turn, sight: Sight, guide: FrameGuide): Camera {
  const { forward, up } = directionOf(sight)
  const right = cross(forward, up)
  const { width, height, marginX, marginY } = guide
  const [halfX, halfY] = [Math.max(1, width / 2 - marginX), Math.max(1, height / 2 - marginY)]
  const far = (direction: Vector) => reach(points, turn, direction)
  /** A camera so far before a point beside the pivot: it looks at that, or, where the model stands behind it, at the model's far side. */
  const aimed = (beside: Vector, distance: number) => {
    const from = subtract(beside, scaled(forward, distance))
    const ahead = distance > 0 ? distance : distance + far(forward) + 1e-6
    return { from, at: add(from, scaled(forward, ahead)) }
  }
  if (sight.fieldOfView === null) {
    const [r, l, t, b] = [far(right), far(scaled(right, -1)), far(up), far(scaled(up, -1))]
    const pixel = Math.max((r + l) / (2 * halfX), (t + b) / (2 * halfY), 1e-9)
    const at = add(scaled(right, (r - l) / 2), scaled(up, (t - b) / 2))
    const away = far(scaled(forward, -1)) + height * pixel
    return { ...aimed(at, away), up, fieldOfView: null, height: height * pixel }
  }
  const slope = Math.tan(radians(sight.fieldOfView) / 2) / (height / 2)
  const [slopeX, slopeY] = [halfX * slope, halfY * slope]
  // Each edge is touched by the point that asks for most; each pair of edges says how far away the camera is, and how far aside.
  const edge = (side: Vector, steep: number) => far(subtract(side, scaled(forward, steep)))
  const [r, l] = [edge(right, slopeX), edge(scaled(right, -1), slopeX)]
  const [t, b] = [edge(up, slopeY), edge(scaled(up, -1), slopeY)]
  // What is seen as a single point, along its axis, is to lie in front of the camera all the same.
  const before = far(scaled(forward, -1))
  const clear = before + NEAREST * Math.max(Math.abs(before), Math.abs(far(forward)), 1e-6)
  const distance = Math.max((r + l) / (2 * slopeX), (t + b) / (2 * slopeY), clear)
  const camera = aimed(add(scaled(right, (r - l) / 2), scaled(up, (t - b) / 2)), distance)
  const seen = lengthOf(subtract(camera.at, camera.from))
  return { ...camera, up, fieldOfView: radians(sight.fieldOfView), height: height * slope * seen }
}

/** The moments of a turn at which it is looked at. */
const MOMENTS = 180

/** How a point goes round in the frame as the model turns, px; and the greatest distance of it from the mean of that. */
export interface Wobble {
  readonly px: number
  readonly path: readonly { readonly x: number; readonly y: number }[]
}

/** The wobble of a point of a model that turns once, such as its centre: none where it lies on the axis. */
export function wobble(centre: Vector, turn: Turn, camera: Camera, width: number, height: number): Wobble {
  const path = Array.from({ length: MOMENTS }, (_, i) =>
    projected(placed(turnedBy(turn, (360 * i) / MOMENTS), centre), camera, width, height),
  ).filter((place) => place !== null)
  if (path.length === 0) return { px: 0, path }
  const mean = path.reduce((sum, { x, y }) => ({ x: sum.x + x / path.length, y: sum.y + y / path.length }), {
    x: 0,
    y: 0,
  })
  return { px: Math.max(...path.map(({ x, y }) => Math.hypot(x - mean.x, y - mean.y))), path }
}

/** Directions round the frame in which the swept outline is looked for. */
const OUTLINE = 96

/**
 * The outline of all that a turning model passes through, as a camera shows it: the points in which lines that touch it all round meet, px. Convex, as what a hull
 * sweeps is.
 */
export function sweptOutline(
  points: ArrayLike<number>,
  turn: Turn,
  camera: Camera,
  width: number,
  height: number,
): { readonly x: number; readonly y: number }[] {
  const { forward, right, up } = axesOf(camera)
  const axis = leaningAxis(turn)
  const out: { x: number; y: number }[] = []
  for (let k = 0; k < OUTLINE; k++) {
    const angle = (2 * Math.PI * k) / OUTLINE
    const side = add(scaled(right, Math.cos(angle)), scaled(up, Math.sin(angle)))
    // The turned point that reaches furthest that way, as it is seen: found anew from where it is, since nearer ones look larger.
    let best: { x: number; y: number } | null = null
    let most = Number.NEGATIVE_INFINITY
    for (let i = 0; i + 2 < points.length; i += 3) {
      const { height: along, radius } = circleOf(points, i, turn)
      const centre = scaled(axis, along)
      let way: Vector = side
      for (let step = 0; step < 4; step++) {
        const across = subtract(way, scaled(axis, dot(way, axis)))
        const length = lengthOf(across)
        const point = length > 1e-12 ? add(centre, scaled(across, radius / length)) : centre
        const seen = projected(point, camera, width, height)
        if (!seen) break
        const reached = (seen.x - width / 2) * Math.cos(angle) - (seen.y - height / 2) * Math.sin(angle)
        if (reached > most) {
          most = reached
          best = seen
        }
        if (camera.fieldOfView === null) break
        const depth = dot(subtract(point, camera.from), forward)
        const lateral = dot(subtract(point, camera.from), side)
        way = subtract(side, scaled(forward, lateral / depth))
      }
    }
    if (best) out.push(best)
  }
  return out
}
