import { add, cross, dot, lengthOf, scaled, subtract, turned, unit, type Vector } from './mesh'
import { placedParts, type SpacePlacement } from './model'

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
export function rotation(axis: Vector, angle: number): SpacePlacement {
  const columns = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map((column) => turned(column as unknown as Vector, ORIGIN, axis, angle))
  return [...columns.flatMap((column) => [...column, 0]), 0, 0, 0, 1]
}

export const translation = ([x, y, z]: Vector): SpacePlacement => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1]

export const scaling = ([x, y, z]: Vector): SpacePlacement => [x, 0, 0, 0, 0, y, 0, 0, 0, 0, z, 0, 0, 0, 0, 1]

/** Where a placement puts a point. */
export const placed = (at: SpacePlacement, [x, y, z]: Vector): Vector =>
  [0, 1, 2].map((row) => at[row] * x + at[4 + row] * y + at[8 + row] * z + at[12 + row]) as unknown as Vector

/** The axis as the lean leaves it. */
export const leaningAxis = ({ axis, lean }: Turn): Vector => turned(axis, ORIGIN, FRONT, -radians(lean))

/** Placement of a model that has turned by the given degrees. */
export const turnedBy = (turn: Turn, degrees: number): SpacePlacement =>
  placedParts(
    rotation(FRONT, -radians(turn.lean)),
    placedParts(rotation(turn.axis, radians(degrees % 360)), translation(scaled(turn.pivot, -1))),
  )

/** The circles that points go round: for each its height along the axis, from the pivot, and its radius, one after the other. */
type Circles = Float64Array

function circlesOf(points: ArrayLike<number>, { pivot, axis }: Turn): Circles {
  const circles = new Float64Array(2 * Math.floor(points.length / 3))
  for (let i = 0; 2 * i < circles.length; i++) {
    const x = points[3 * i] - pivot[0]
    const y = points[3 * i + 1] - pivot[1]
    const z = points[3 * i + 2] - pivot[2]
    const height = x * axis[0] + y * axis[1] + z * axis[2]
    circles[2 * i] = height
    circles[2 * i + 1] = Math.sqrt(Math.max(0, x * x + y * y + z * z - height * height))
  }
  return circles
}

/** The circle that reaches furthest in a direction, by its place, and how far that is: where the direction meets it. @param axis as it leans, of length 1 */
function furthest(circles: Circles, axis: Vector, direction: Vector): { readonly place: number; readonly far: number } {
  const along = dot(direction, axis)
  const across = lengthOf(subtract(direction, scaled(axis, along)))
  let place = -1
  let far = Number.NEGATIVE_INFINITY
  for (let i = 0; i < circles.length; i += 2) {
    const reached = circles[i] * along + circles[i + 1] * across
    if (reached > far) {
      place = i
      far = reached
    }
  }
  return { place, far }
}

/**
 * How far points that turn reach in a direction, which need not be of length 1: the greatest product with it at any angle.
 * @param points x, y, z one after the other, in the model's own coordinates
 */
export const reach = (points: ArrayLike<number>, turn: Turn, direction: Vector): number =>
  furthest(circlesOf(points, turn), leaningAxis(turn), direction).far

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
function directionOf({ around, height, roll }: Sight): { readonly forward: Vector; readonly up: Vector } {
  const a = radians(around)
  const h = radians(height)
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
const MIN_DISTANCE = 1e-3

/**
 * A camera that holds all of a turn within a guide, which it touches: its distance and its shift follow from how far the turning points reach along the
 * normals of the four planes through the camera and the edges of the guide.
 */
export function fittedCamera(points: ArrayLike<number>, turn: Turn, sight: Sight, guide: FrameGuide): Camera {
  const { forward, up } = directionOf(sight)
  const right = cross(forward, up)
  const { width, height, marginX, marginY } = guide
  const halfX = Math.max(1, width / 2 - marginX)
  const halfY = Math.max(1, height / 2 - marginY)
  const circles = circlesOf(points, turn)
  const axis = leaningAxis(turn)
  const far = (direction: Vector) => furthest(circles, axis, direction).far
  /**
   * A camera at a distance before a point beside the pivot: it looks at that point, or, if the model stands behind it,
   * at the model's far side.
   */
  const aimed = (beside: Vector, distance: number) => {
    const from = subtract(beside, scaled(forward, distance))
    const ahead = distance > 0 ? distance : distance + far(forward) + 1e-6
    return { from, at: add(from, scaled(forward, ahead)) }
  }
  if (sight.fieldOfView === null) {
    const r = far(right)
    const l = far(scaled(right, -1))
    const t = far(up)
    const b = far(scaled(up, -1))
    const pixel = Math.max((r + l) / (2 * halfX), (t + b) / (2 * halfY), 1e-9)
    const at = add(scaled(right, (r - l) / 2), scaled(up, (t - b) / 2))
    const away = far(scaled(forward, -1)) + height * pixel
    return { ...aimed(at, away), up, fieldOfView: null, height: height * pixel }
  }
  const slope = Math.tan(radians(sight.fieldOfView) / 2) / (height / 2)
  const slopeX = halfX * slope
  const slopeY = halfY * slope
  // Each edge is touched by the point that asks for most; each pair of edges says how far away the camera is, and how far aside.
  const edge = (side: Vector, steep: number) => far(subtract(side, scaled(forward, steep)))
  const r = edge(right, slopeX)
  const l = edge(scaled(right, -1), slopeX)
  const t = edge(up, slopeY)
  const b = edge(scaled(up, -1), slopeY)
  // A model seen as a single point, along its axis, must lie in front of the camera all the same.
  const before = far(scaled(forward, -1))
  const clear = before + MIN_DISTANCE * Math.max(Math.abs(before), Math.abs(far(forward)), 1e-6)
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

/** Directions round the frame in which the swept outline is looked for, and steps in which each is found. */
const OUTLINE = 96
const STEPS = 8

/**
 * The outline of all that a turning model passes through, as a camera shows it, px: for each direction the point that reaches furthest that way. In perspective that is the
 * greatest ratio of two products, found by taking the best point of one ratio for the next (Dinkelbach 1967).
 */
export function sweptOutline(
  points: ArrayLike<number>,
  turn: Turn,
  camera: Camera,
  width: number,
  height: number,
): { readonly x: number; readonly y: number }[] {
  const { forward, right, up } = axesOf(camera)
  const circles = circlesOf(points, turn)
  const axis = leaningAxis(turn)
  return Array.from({ length: OUTLINE }, (_, k) => {
    const angle = (2 * Math.PI * k) / OUTLINE
    const side = add(scaled(right, Math.cos(angle)), scaled(up, Math.sin(angle)))
    let slope = Number.NEGATIVE_INFINITY
    let seen = null as ReturnType<typeof projected>
    // A slope to begin with that every point reaches: the model lies in front of the camera.
    let way = camera.fieldOfView === null ? side : add(side, scaled(forward, 4))
    for (let step = 0; step < STEPS; step++) {
      const { place } = furthest(circles, axis, way)
      if (place < 0) break
      const across = subtract(way, scaled(axis, dot(way, axis)))
      const length = lengthOf(across)
      const centre = scaled(axis, circles[place])
      const point = length > 1e-12 ? add(centre, scaled(across, circles[place + 1] / length)) : centre
      const from = subtract(point, camera.from)
      const next = camera.fieldOfView === null ? dot(from, side) : dot(from, side) / dot(from, forward)
      if (!(next > slope + 1e-9)) break
      slope = next
      seen = projected(point, camera, width, height)
      if (camera.fieldOfView === null) break
      way = subtract(side, scaled(forward, slope))
    }
    return seen
  }).filter((place) => place !== null)
}
