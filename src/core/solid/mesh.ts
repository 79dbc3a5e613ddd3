import type { Looks } from './looks'

/** Triangles in space: x, y, z of each vertex one after the other, and three vertices of each triangle. */
export interface Mesh {
  readonly positions: Float32Array
  readonly indices: Uint32Array
  /** How it looks; left out where all of it looks alike. */
  readonly looks?: Looks
}

export type Vector = readonly [x: number, y: number, z: number]

/** The least and the greatest of each coordinate. */
export interface Bounds {
  readonly least: Vector
  readonly most: Vector
}

const vertex = ({ positions }: Mesh, i: number): Vector => [
  positions[3 * i],
  positions[3 * i + 1],
  positions[3 * i + 2],
]

export const subtract = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]]
export const add = (a: Vector, b: Vector): Vector => [a[0] + b[0], a[1] + b[1], a[2] + b[2]]
export const scaled = (a: Vector, by: number): Vector => [a[0] * by, a[1] * by, a[2] * by]
export const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
export const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
]
export const lengthOf = (a: Vector): number => Math.hypot(...a)
/** @throws RangeError where it has no direction */
export function unit(a: Vector): Vector {
  const length = lengthOf(a)
  if (!(length > 0)) throw new RangeError('a direction needs a length')
  return scaled(a, 1 / length)
}

/** The box around all vertices; null where there are none. */
export function boundsOf(mesh: Mesh): Bounds | null {
  const { positions } = mesh
  if (positions.length < 3) return null
  const least = [Infinity, Infinity, Infinity]
  const most = [-Infinity, -Infinity, -Infinity]
  for (let i = 0; i < positions.length; i++) {
    const axis = i % 3
    const value = positions[i]
    if (value < least[axis]) least[axis] = value
    if (value > most[axis]) most[axis] = value
  }
  return { least: least as unknown as Vector, most: most as unknown as Vector }
}

export const middleOf = ({ least, most }: Bounds): Vector => scaled(add(least, most), 0.5)

/**
 * The centre of mass of what a closed surface encloses, evenly filled (sums of tetrahedra, Mirtich 1996); of its triangles by their area where it
 * encloses next to nothing, as an open one does; null where it has no area.
 */
export function massCentre(mesh: Mesh): Vector | null {
  const bounds = boundsOf(mesh)
  if (!bounds) return null
  // About the middle, so that what lies far from the origin loses no digits.
  const origin = middleOf(bounds)
  let volume = 0
  let area = 0
  let [solid, shell]: [Vector, Vector] = [
    [0, 0, 0],
    [0, 0, 0],
  ]
  for (let t = 0; t < mesh.indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => subtract(vertex(mesh, mesh.indices[t + k]), origin)) as [
      Vector,
      Vector,
      Vector,
    ]
    const sum = add(add(a, b), c)
    const part = dot(a, cross(b, c)) / 6
    volume += part
    solid = add(solid, scaled(sum, part / 4))
    const own = lengthOf(cross(subtract(b, a), subtract(c, a))) / 2
    area += own
    shell = add(shell, scaled(sum, own / 3))
  }
  if (!(area > 0)) return null
  const size = lengthOf(subtract(bounds.most, bounds.least))
  const closed = Math.abs(volume) > 1e-3 * size ** 3
  return add(origin, closed ? scaled(solid, 1 / volume) : scaled(shell, 1 / area))
}

/** A point turned about an axis through a pivot, by an angle in radians (Rodrigues 1840). */
export function turned(point: Vector, pivot: Vector, axis: Vector, angle: number): Vector {
  const from = subtract(point, pivot)
  const cos = Math.cos(angle)
  const sin = Math.sin(angle)
  const along = scaled(axis, dot(axis, from) * (1 - cos))
  return add(pivot, add(add(scaled(from, cos), scaled(cross(axis, from), sin)), along))
}
