import { add, cross, dot, scaled, subtract, unit, type Vector } from './mesh'
import { inverseOf, type Part, PLACED_AS_IT_IS, placedParts, type SpacePlacement } from './model'
import { axesOf, type Camera, placed } from './view'

/** A half line in space. */
export interface Ray {
  readonly from: Vector
  /** Of length 1. */
  readonly way: Vector
}

/** All points that a camera shows at a place of its frame, px from its upper left: the inverse of `projected`. */
export function rayThrough(
  camera: Camera,
  at: { readonly x: number; readonly y: number },
  width: number,
  height: number,
): Ray {
  const { forward, right, up } = axesOf(camera)
  const x = (2 * at.x - width) / height
  const y = 1 - (2 * at.y) / height
  if (camera.fieldOfView === null) {
    const half = camera.height / 2
    return { from: add(camera.from, add(scaled(right, x * half), scaled(up, y * half))), way: forward }
  }
  const slope = Math.tan(camera.fieldOfView / 2)
  return { from: camera.from, way: unit(add(forward, add(scaled(right, x * slope), scaled(up, y * slope)))) }
}

/** Where a ray meets the plane through a point that faces a direction; null where it does not. */
export function onPlane({ from, way }: Ray, point: Vector, facing: Vector): Vector | null {
  const slope = dot(way, facing)
  if (Math.abs(slope) < 1e-9) return null
  const far = dot(subtract(point, from), facing) / slope
  return far > 0 ? add(from, scaled(way, far)) : null
}

/** A ray as it is seen from where a placement puts things; the length of its way may be another. */
const seenFrom = (at: SpacePlacement, { from, way }: Ray) => {
  const back = inverseOf(at)
  const start = placed(back, from)
  return { from: start, way: subtract(placed(back, add(from, way)), start) }
}

/** A part that does not stand where its file has it: what comes before that, in the coordinates of the model. */
export interface Moved {
  readonly node: number
  readonly placement: SpacePlacement
}

/**
 * The point of a model's surface that a ray meets first, both in the coordinates of the model; null where it meets none
 * (Möller & Trumbore 1997, against every triangle).
 */
export function touched(parts: readonly Part[], moved: readonly Moved[], ray: Ray): Vector | null {
  let nearest = Number.POSITIVE_INFINITY
  const placements = new Map(moved.map(({ node, placement }) => [node, placement]))
  const walk = (each: readonly Part[], rest: SpacePlacement, now: SpacePlacement) => {
    for (const { placement, node, mesh, parts: held } of each) {
      const own = placedParts(rest, placement)
      const change = node === null ? undefined : placements.get(node)
      // As it stands in what holds it, which may have moved, too.
      const at = change
        ? placedParts(placedParts(now, inverseOf(rest)), placedParts(change, own))
        : placedParts(now, placement)
      if (mesh) nearest = Math.min(nearest, meets(mesh, seenFrom(at, ray)))
      walk(held, own, at)
    }
  }
  walk(parts, PLACED_AS_IT_IS, PLACED_AS_IT_IS)
  return Number.isFinite(nearest) ? add(ray.from, scaled(ray.way, nearest)) : null
}

/** How far along a ray, in lengths of its way, a mesh is met first. */
function meets({ positions, indices }: Part['mesh'] & object, { from, way }: Ray): number {
  let nearest = Number.POSITIVE_INFINITY
  const corner = (i: number): Vector => {
    const k = 3 * indices[i]
    return [positions[k], positions[k + 1], positions[k + 2]]
  }
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const a = corner(t)
    const u = subtract(corner(t + 1), a)
    const v = subtract(corner(t + 2), a)
    const across = cross(way, v)
    const det = dot(u, across)
    if (det === 0) continue
    const start = subtract(from, a)
    const p = dot(start, across) / det
    if (!(p >= 0 && p <= 1)) continue
    const turned = cross(start, u)
    const q = dot(way, turned) / det
    if (!(q >= 0 && p + q <= 1)) continue
    const far = dot(v, turned) / det
    if (far > 0 && far < nearest) nearest = far
  }
  return nearest
}
