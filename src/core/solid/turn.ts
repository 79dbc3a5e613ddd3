import { boundsOf, dot, lengthOf, type Mesh, middleOf, scaled, subtract, type Vector } from './mesh'

/** The cylinder that a mesh sweeps as it turns about an axis: how far it reaches from it, and from where to where along it, from the pivot. */
export interface Swept {
  readonly radius: number
  readonly low: number
  readonly high: number
}

/** @param axis of length 1 */
export function sweptCylinder({ positions }: Mesh, pivot: Vector, axis: Vector): Swept {
  let radius = 0
  let low = Infinity
  let high = -Infinity
  for (let i = 0; i < positions.length; i += 3) {
    const from: Vector = [positions[i] - pivot[0], positions[i + 1] - pivot[1], positions[i + 2] - pivot[2]]
    const along = dot(from, axis)
    low = Math.min(low, along)
    high = Math.max(high, along)
    radius = Math.max(radius, Math.sqrt(Math.max(0, dot(from, from) - along * along)))
  }
  return { radius, low, high }
}

/** How far the middle of the bounds lies from the axis, as a share of the size. */
export function offCentre(mesh: Mesh, pivot: Vector, axis: Vector): number {
  const bounds = boundsOf(mesh)
  if (!bounds) return 0
  const from = subtract(middleOf(bounds), pivot)
  const away = lengthOf(subtract(from, scaled(axis, dot(from, axis))))
  return away / Math.max(1e-12, lengthOf(subtract(bounds.most, bounds.least)))
}
