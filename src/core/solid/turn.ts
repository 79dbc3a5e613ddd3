import {
  add,
  boundsOf,
  cross,
  dot,
  lengthOf,
  type Mesh,
  middleOf,
  scaled,
  subtract,
  turned,
  unit,
  type Vector,
} from './mesh'

/** The cylinder that a mesh sweeps as it turns about an axis: how far it reaches from it, and from where to where along it, from the pivot. */
export interface Swept {
  readonly radius: number
  readonly low: number
  readonly high: number
}

/** @param axis of length 1 */
export function sweptCylinder({ positions }: Mesh, pivot: Vector, axis: Vector): Swept {
  let [radius, low, high] = [0, Infinity, -Infinity]
  for (let i = 0; i < positions.length; i += 3) {
    const from: Vector = [
      (positions[i] as number) - pivot[0],
      (positions[i + 1] as number) - pivot[1],
      (positions[i + 2] as number) - pivot[2],
    ]
    const along = dot(from, axis)
    low = Math.min(low, along)
    high = Math.max(high, along)
    radius = Math.max(radius, Math.sqrt(Math.max(0, dot(from, from) - along * along)))
  }
  return { radius, low, high }
}

/** A camera that looks from a place at another: perspective with a field of view, or parallel. */
export interface Camera {
  readonly from: Vector
  readonly at: Vector
  readonly up: Vector
  /** Of the height, radians; null is parallel, `height` units of the scene filling the frame. */
  readonly fieldOfView: number | null
  readonly height: number
}

/** Where a camera shows a point in a frame, px from its upper left; behind the camera nothing is to be seen: null. */
export function projected(
  point: Vector,
  camera: Camera,
  width: number,
  height: number,
): { x: number; y: number } | null {
  const forward = unit(subtract(camera.at, camera.from))
  const right = unit(cross(forward, camera.up))
  const up = cross(right, forward)
  const from = subtract(point, camera.from)
  const depth = dot(from, forward)
  const [x, y] = [dot(from, right), dot(from, up)]
  if (camera.fieldOfView !== null && !(depth > 0)) return null
  const scale =
    camera.fieldOfView === null ? height / camera.height : height / 2 / (Math.tan(camera.fieldOfView / 2) * depth)
  return { x: width / 2 + x * scale, y: height / 2 - y * scale }
}

/** The moments of a turn at which it is looked at. */
const MOMENTS = 180

/**
 * Wobble: the greatest distance, px, of the projected centre from its mean over a turn; how the centre goes round, too. Nothing of it where the centre lies on
 * the axis.
 */
export function wobble(
  centre: Vector,
  turn: { readonly pivot: Vector; readonly axis: Vector },
  camera: Camera,
  width: number,
  height: number,
): { readonly px: number; readonly path: readonly { readonly x: number; readonly y: number }[] } {
  const path = Array.from({ length: MOMENTS }, (_, i) =>
    projected(turned(centre, turn.pivot, turn.axis, (i / MOMENTS) * 2 * Math.PI), camera, width, height),
  ).filter((place) => place !== null)
  if (path.length === 0) return { px: 0, path }
  const mean = path.reduce((sum, { x, y }) => ({ x: sum.x + x / path.length, y: sum.y + y / path.length }), {
    x: 0,
    y: 0,
  })
  return { px: Math.max(...path.map(({ x, y }) => Math.hypot(x - mean.x, y - mean.y))), path }
}

/** A guide in the frame that is to hold the whole turn: how much of the width and of the height stays free on each side. */
export interface FrameGuide {
  readonly width: number
  readonly height: number
  /** px on all sides. */
  readonly margin: number
}

/** Points of a circle that stand for it: what lies between two of them reaches further by a part in 5,000. */
const ROUND = 160

/** The two rims of a swept cylinder, all of which it holds. */
function rims({ radius, low, high }: Swept, pivot: Vector, axis: Vector): Vector[] {
  const aside = unit(cross(axis, Math.abs(axis[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0]))
  return [low, high].flatMap((along) =>
    Array.from({ length: ROUND }, (_, i) =>
      turned(
        add(pivot, add(scaled(axis, along), scaled(aside, radius / Math.cos(Math.PI / ROUND)))),
        pivot,
        axis,
        (i / ROUND) * 2 * Math.PI,
      ),
    ),
  )
}

/**
 * A camera that looks along a direction and holds all of a turn within a guide, which it touches: found by halving, since all that comes nearer only
 * grows. Its distance and its shift follow from the field of view.
 * @param direction from the camera to the model
 */
export function fittedCamera(
  swept: Swept,
  turn: { readonly pivot: Vector; readonly axis: Vector },
  direction: Vector,
  up: Vector,
  fieldOfView: number,
  guide: FrameGuide,
): Camera {
  const points = rims(swept, turn.pivot, turn.axis)
  const forward = unit(direction)
  const right = unit(cross(forward, up))
  const above = cross(right, forward)
  const { width, height, margin } = guide
  const [halfX, halfY] = [Math.max(1, width / 2 - margin), Math.max(1, height / 2 - margin)]
  // Slopes of the guide's edges, as the camera sees them.
  const slope = Math.tan(fieldOfView / 2) / (height / 2)
  const [slopeX, slopeY] = [halfX * slope, halfY * slope]
  const seen = points.map((point) => {
    const from = subtract(point, turn.pivot)
    return [dot(from, right), dot(from, above), dot(from, forward)] as const
  })
  // Each edge is touched by the point that asks for most; the camera stands where both pairs of edges hold (four lines, solved in pairs).
  const most = (f: (p: readonly [number, number, number]) => number) => Math.max(...seen.map(f))
  const [rightmost, leftmost] = [most(([x, , z]) => x - slopeX * z), most(([x, , z]) => -x - slopeX * z)]
  const [topmost, lowest] = [most(([, y, z]) => y - slopeY * z), most(([, y, z]) => -y - slopeY * z)]
  const distance = Math.max((rightmost + leftmost) / (2 * slopeX), (topmost + lowest) / (2 * slopeY))
  const shift = add(scaled(right, (rightmost - leftmost) / 2), scaled(above, (topmost - lowest) / 2))
  const at = add(turn.pivot, shift)
  return { from: subtract(at, scaled(forward, distance)), at, up: above, fieldOfView, height: 2 * slopeY * distance }
}

/** How far the middle of the bounds lies from the axis, as a share of the size. */
export function offCentre(mesh: Mesh, pivot: Vector, axis: Vector): number {
  const bounds = boundsOf(mesh)
  if (!bounds) return 0
  const from = subtract(middleOf(bounds), pivot)
  const away = lengthOf(subtract(from, scaled(axis, dot(from, axis))))
  return away / Math.max(1e-12, lengthOf(subtract(bounds.most, bounds.least)))
}
