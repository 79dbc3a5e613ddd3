import { seeded } from '../random'
import { add, cross, dot, lengthOf, type Mesh, scaled, subtract, turned, type Vector } from './mesh'
import { sweptCylinder } from './turn'

/** Points of the surface that are tried. */
const SAMPLES = 500
/** Surfaces that are no further apart than this share of how far they reach from the axis are alike. */
const ALIKE = 0.01
/** So many of the points must lie on the surface: a thread or a number on one side is one that all see. */
const ENOUGH = 0.995
/** Turns into more parts than this are not looked for; what looks alike after several of them is round. */
const MOST_FOLD = 48
const ROUND = [47, 43, 41]

/** A part of a whole turn after which a model looks the same: 1 is none, Infinity is round. */
export type Fold = number

type Triangle = readonly [Vector, Vector, Vector]

const triangleOf = ({ positions, indices }: Mesh, t: number): Triangle => {
  const at = (k: number): Vector => {
    const i = 3 * (indices[3 * t + k] as number)
    return [positions[i] as number, positions[i + 1] as number, positions[i + 2] as number]
  }
  return [at(0), at(1), at(2)]
}

/** Points spread over a surface by its area, the same ones whenever they are asked for. */
export function surfacePoints(mesh: Mesh, count: number): Vector[] {
  const triangles = mesh.indices.length / 3
  const sums = new Float64Array(triangles)
  let area = 0
  for (let t = 0; t < triangles; t++) {
    const [a, b, c] = triangleOf(mesh, t)
    area += lengthOf(cross(subtract(b, a), subtract(c, a))) / 2
    sums[t] = area
  }
  if (!(area > 0)) return []
  return Array.from({ length: count }, (_, n) => {
    const at = ((n + seeded(n, 1)) / count) * area
    let [low, high] = [0, triangles - 1]
    while (low < high) {
      const middle = (low + high) >> 1
      if ((sums[middle] as number) < at) low = middle + 1
      else high = middle
    }
    const [a, b, c] = triangleOf(mesh, low)
    const [u, v] = [Math.sqrt(seeded(n, 2)), seeded(n, 3)]
    return add(add(scaled(a, 1 - u), scaled(b, u * (1 - v))), scaled(c, u * v))
  })
}

/** The square of the distance of a point from a straight line between two others. */
function squareToSide(p: Vector, a: Vector, b: Vector): number {
  const [ab, ap] = [subtract(b, a), subtract(p, a)]
  const length = dot(ab, ab)
  const along = length > 0 ? Math.min(1, Math.max(0, dot(ap, ab) / length)) : 0
  const d = subtract(ap, scaled(ab, along))
  return dot(d, d)
}

/** The square of the distance of a point from a triangle (Ericson 2004, 5.1.5). */
export function squareToTriangle(p: Vector, [a, b, c]: Triangle): number {
  const square = (q: Vector) => {
    const d = subtract(p, q)
    return dot(d, d)
  }
  const [ab, ac, ap] = [subtract(b, a), subtract(c, a), subtract(p, a)]
  const [d1, d2] = [dot(ab, ap), dot(ac, ap)]
  if (d1 <= 0 && d2 <= 0) return square(a)
  const bp = subtract(p, b)
  const [d3, d4] = [dot(ab, bp), dot(ac, bp)]
  if (d3 >= 0 && d4 <= d3) return square(b)
  const vc = d1 * d4 - d3 * d2
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return square(add(a, scaled(ab, d1 / (d1 - d3))))
  const cp = subtract(p, c)
  const [d5, d6] = [dot(ab, cp), dot(ac, cp)]
  if (d6 >= 0 && d5 <= d6) return square(c)
  const vb = d5 * d2 - d1 * d6
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return square(add(a, scaled(ac, d2 / (d2 - d6))))
  const va = d3 * d6 - d5 * d4
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0)
    return square(add(b, scaled(subtract(c, b), (d4 - d3) / (d4 - d3 + d5 - d6))))
  const sum = va + vb + vc
  // A triangle of next to no area is its sides, and one of no length at all a point.
  if (!(sum > 0)) return Math.min(squareToSide(p, a, b), squareToSide(p, b, c), squareToSide(p, c, a))
  return square(add(a, add(scaled(ab, vb / sum), scaled(ac, vc / sum))))
}

/** Cells of a grid along the longest side of a mesh. */
const CELLS = 48

/** Whether points lie on a surface, within a tolerance: triangles are found by the cells of a grid that they reach. */
export function onSurface(mesh: Mesh, tolerance: number): (point: Vector) => boolean {
  const { positions } = mesh
  let reach = 0
  for (let i = 0; i < positions.length; i++) reach = Math.max(reach, Math.abs(positions[i] as number))
  const cell = Math.max(2 * tolerance, (2 * reach) / CELLS, 1e-9)
  const grid = new Map<string, number[]>()
  const at = (x: number) => Math.floor(x / cell)
  for (let t = 0; t < mesh.indices.length / 3; t++) {
    const corners = triangleOf(mesh, t)
    const range = (axis: 0 | 1 | 2) => {
      const values = corners.map((corner) => corner[axis])
      return [at(Math.min(...values) - tolerance), at(Math.max(...values) + tolerance)] as const
    }
    const [[x0, x1], [y0, y1], [z0, z1]] = [range(0), range(1), range(2)]
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++) {
          const key = `${x} ${y} ${z}`
          const known = grid.get(key)
          if (known) known.push(t)
          else grid.set(key, [t])
        }
  }
  return (point) => {
    const near = grid.get(`${at(point[0])} ${at(point[1])} ${at(point[2])}`) ?? []
    return near.some((t) => squareToTriangle(point, triangleOf(mesh, t)) <= tolerance * tolerance)
  }
}

/**
 * The fold of a mesh about an axis: the largest k for which its surface, turned by 360°/k, lies on itself within a hundredth of how far it reaches
 * from the axis; Infinity where it is round.
 */
export function foldOf(mesh: Mesh, pivot: Vector, axis: Vector): Fold {
  const { radius } = sweptCylinder(mesh, pivot, axis)
  const points = surfacePoints(mesh, SAMPLES)
  if (points.length === 0 || !(radius > 0)) return 1
  const lies = onSurface(mesh, ALIKE * radius)
  const alike = (k: number) => {
    let missed = 0
    for (const point of points) {
      if (!lies(turned(point, pivot, axis, (2 * Math.PI) / k))) missed++
      if (missed > (1 - ENOUGH) * points.length) return false
    }
    return true
  }
  if (ROUND.every(alike)) return Number.POSITIVE_INFINITY
  for (let k = MOST_FOLD; k > 1; k--) if (alike(k)) return k
  return 1
}
