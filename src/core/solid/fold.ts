import { seeded } from '../random'
import { lookAt, looksAlike } from './looks'
import { add, cross, dot, lengthOf, type Mesh, scaled, subtract, turned, unit, type Vector } from './mesh'
import { sweptCylinder } from './turn'

/** Points of the surface that are tried. */
const SAMPLES = 500
/** Surfaces that are no further apart than this share of how far they reach from the axis are alike. */
const ALIKE = 0.01
/** Share of the points that must lie on the surface: a thread or a number on one side is seen by everyone. */
const ENOUGH = 0.995
/** Turns into more parts than this are not looked for; what looks alike after several of them is round. */
const MAX_FOLD = 48
const ROUND = [47, 43, 41]

/** A part of a whole turn after which a model looks the same: 1 is none, Infinity is round. */
export type Fold = number

type Triangle = readonly [Vector, Vector, Vector]

const triangleOf = ({ positions, indices }: Mesh, t: number): Triangle => {
  const at = (k: number): Vector => {
    const i = 3 * indices[3 * t + k]
    return [positions[i], positions[i + 1], positions[i + 2]]
  }
  return [at(0), at(1), at(2)]
}

/** A point of a surface, and how it looks there; null where all of it looks alike. */
interface SeenPoint {
  readonly at: Vector
  readonly look: readonly number[] | null
}

/** How a triangle looks at a point, by its shares of the three corners; null where all of the mesh looks alike. */
function lookOf({ indices, looks }: Mesh, t: number, shares: readonly number[]): readonly number[] | null {
  if (!looks) return null
  const corners = [0, 1, 2].map((k) => indices[3 * t + k]) as [number, number, number]
  return lookAt(looks, t, corners, shares)
}

/** Points spread over a surface by its area, the same ones whenever they are asked for. */
const surfacePoints = (mesh: Mesh, count: number): Vector[] => seenPoints(mesh, count).map(({ at }) => at)

/** The same with how the surface looks there. @param only triangles on which they lie; all of them unless said */
function seenPoints(mesh: Mesh, count: number, only: (t: number) => boolean = () => true): SeenPoint[] {
  const triangles = mesh.indices.length / 3
  const sums = new Float64Array(triangles)
  let area = 0
  for (let t = 0; t < triangles; t++) {
    const [a, b, c] = triangleOf(mesh, t)
    if (only(t)) area += lengthOf(cross(subtract(b, a), subtract(c, a))) / 2
    sums[t] = area
  }
  if (!(area > 0)) return []
  return Array.from({ length: count }, (_, n) => {
    const at = ((n + seeded(n, 1)) / count) * area
    let low = 0
    let high = triangles - 1
    while (low < high) {
      const middle = (low + high) >> 1
      if (sums[middle] < at) low = middle + 1
      else high = middle
    }
    const [a, b, c] = triangleOf(mesh, low)
    const u = Math.sqrt(seeded(n, 2))
    const v = seeded(n, 3)
    const shares = [1 - u, u * (1 - v), u * v] as const
    return {
      at: add(add(scaled(a, shares[0]), scaled(b, shares[1])), scaled(c, shares[2])),
      look: lookOf(mesh, low, shares),
    }
  })
}

/** Shares of the corners of a triangle in the point of its plane that is nearest to a point (Ericson 2004, 3.4). */
function sharesOf(p: Vector, [a, b, c]: Triangle): readonly number[] {
  const ab = subtract(b, a)
  const ac = subtract(c, a)
  const ap = subtract(p, a)
  const d00 = dot(ab, ab)
  const d01 = dot(ab, ac)
  const d11 = dot(ac, ac)
  const d20 = dot(ap, ab)
  const d21 = dot(ap, ac)
  const determinant = d00 * d11 - d01 * d01
  if (!(determinant > 0)) return [1, 0, 0]
  const clamp = (x: number) => Math.min(1, Math.max(0, x))
  const v = clamp((d11 * d20 - d01 * d21) / determinant)
  const w = Math.min(1 - v, clamp((d00 * d21 - d01 * d20) / determinant))
  return [1 - v - w, v, w]
}

/** The square of the distance of a point from a straight line between two others. */
function squareToSide(p: Vector, a: Vector, b: Vector): number {
  const ab = subtract(b, a)
  const ap = subtract(p, a)
  const length = dot(ab, ab)
  const along = length > 0 ? Math.min(1, Math.max(0, dot(ap, ab) / length)) : 0
  const d = subtract(ap, scaled(ab, along))
  return dot(d, d)
}

/** How far along a side; a side of no length has one place. */
const shareOf = (along: number, length: number): number => (length > 0 ? along / length : 0)

/** The square of the distance of a point from a triangle (Ericson 2004, 5.1.5). */
export function squareToTriangle(p: Vector, [a, b, c]: Triangle): number {
  const square = (q: Vector) => {
    const d = subtract(p, q)
    return dot(d, d)
  }
  const ab = subtract(b, a)
  const ac = subtract(c, a)
  const ap = subtract(p, a)
  const d1 = dot(ab, ap)
  const d2 = dot(ac, ap)
  if (d1 <= 0 && d2 <= 0) return square(a)
  const bp = subtract(p, b)
  const d3 = dot(ab, bp)
  const d4 = dot(ac, bp)
  if (d3 >= 0 && d4 <= d3) return square(b)
  const vc = d1 * d4 - d3 * d2
  if (vc <= 0 && d1 >= 0 && d3 <= 0) return square(add(a, scaled(ab, shareOf(d1, d1 - d3))))
  const cp = subtract(p, c)
  const d5 = dot(ab, cp)
  const d6 = dot(ac, cp)
  if (d6 >= 0 && d5 <= d6) return square(c)
  const vb = d5 * d2 - d1 * d6
  if (vb <= 0 && d2 >= 0 && d6 <= 0) return square(add(a, scaled(ac, shareOf(d2, d2 - d6))))
  const va = d3 * d6 - d5 * d4
  if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0)
    return square(add(b, scaled(subtract(c, b), shareOf(d4 - d3, d4 - d3 + d5 - d6))))
  const sum = va + vb + vc
  // A triangle of next to no area is its sides, and one of no length at all a point.
  if (!(sum > 0)) return Math.min(squareToSide(p, a, b), squareToSide(p, b, c), squareToSide(p, c, a))
  return square(add(a, add(scaled(ab, vb / sum), scaled(ac, vc / sum))))
}

/** Cells of a grid along the longest side of a mesh, and what keeps three places of them in one number. */
const CELLS = 24
const OFFSET = 1 << 10
const WIDE = 1 << 11

/** Whether points lie on a surface, within a tolerance, where it looks as is said: triangles are found by the cells of a grid that they reach. */
function onSurface(mesh: Mesh, tolerance: number): (point: Vector, look?: readonly number[] | null) => boolean {
  const { positions } = mesh
  let reach = 0
  for (let i = 0; i < positions.length; i++) reach = Math.max(reach, Math.abs(positions[i]))
  const cell = Math.max(2 * tolerance, (2 * reach) / CELLS, 1e-9)
  const grid = new Map<number, number[]>()
  const at = (x: number) => Math.floor(x / cell) + OFFSET
  const keyOf = (x: number, y: number, z: number) => (x * WIDE + y) * WIDE + z
  const reachCells = (corners: Triangle, t: number) => {
    const range = (axis: 0 | 1 | 2) => {
      const values = corners.map((corner) => corner[axis])
      return [at(Math.min(...values) - tolerance), at(Math.max(...values) + tolerance)] as const
    }
    const [x0, x1] = range(0)
    const [y0, y1] = range(1)
    const [z0, z1] = range(2)
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++) {
          const known = grid.get(keyOf(x, y, z))
          if (!known) grid.set(keyOf(x, y, z), [t])
          else if (known.at(-1) !== t) known.push(t)
        }
  }
  /** In pieces no longer than two cells, so that one that lies aslant is not looked for in all of the box around it. */
  const lay = (corners: Triangle, t: number) => {
    const sides = [0, 1, 2].map((k) => {
      const d = subtract(corners[k], corners[(k + 1) % 3])
      return dot(d, d)
    })
    const longest = Math.max(...sides)
    if (!(longest > 4 * cell * cell)) return reachCells(corners, t)
    const k = sides.indexOf(longest)
    const [a, b, c] = [corners[k], corners[(k + 1) % 3], corners[(k + 2) % 3]] as [Vector, Vector, Vector]
    const middle = scaled(add(a, b), 0.5)
    lay([a, middle, c], t)
    lay([middle, b, c], t)
  }
  for (let t = 0; t < mesh.indices.length / 3; t++) lay(triangleOf(mesh, t), t)
  return (point, look = null) => {
    const near = grid.get(keyOf(at(point[0]), at(point[1]), at(point[2]))) ?? []
    return near.some((t) => {
      const triangle = triangleOf(mesh, t)
      if (squareToTriangle(point, triangle) > tolerance * tolerance) return false
      const own = look && lookOf(mesh, t, sharesOf(point, triangle))
      return !own || looksAlike(look, own)
    })
  }
}

/** Points by whose angles it is told which folds there cannot be. */
const ANGLES = 2000
/** Chance deviates by less than this multiple of its standard deviation. */
const CHANCE = 6

/**
 * Folds that the angles of the surface about an axis allow: a surface that looks the same after 360°/k has no part in its angles that goes round m times
 * where k does not divide m (Fourier). Most models are told by this alone to have none.
 */
function allowedFolds(mesh: Mesh, pivot: Vector, axis: Vector): number[] {
  const points = surfacePoints(mesh, ANGLES)
  const aside = unit(cross(axis, Math.abs(axis[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0]))
  const other = cross(axis, aside)
  const parts = Array.from({ length: MAX_FOLD + 1 }, () => [0, 0] as [number, number])
  let square = 0
  for (const point of points) {
    const from = subtract(point, pivot)
    const x = dot(from, aside)
    const y = dot(from, other)
    const radius = Math.hypot(x, y)
    if (!(radius > 0)) continue
    square += radius * radius
    // Powers of the direction, one after the other, in place of a sine for each.
    const cos = x / radius
    const sin = y / radius
    let re = 1
    let im = 0
    for (let m = 1; m <= MAX_FOLD; m++) {
      ;[re, im] = [re * cos - im * sin, re * sin + im * cos]
      const sum = parts[m]
      sum[0] += radius * re
      sum[1] += radius * im
    }
  }
  const told = parts.flatMap(([re, im], m) => (m > 0 && Math.hypot(re, im) > CHANCE * Math.sqrt(square) ? [m] : []))
  return Array.from({ length: MAX_FOLD - 1 }, (_, i) => MAX_FOLD - i).filter((k) => told.every((m) => m % k === 0))
}

/** Points tried on each surface beside those of the whole mesh, so that a small surface of another look counts; at most 24 surfaces. */
const SURFACE_SAMPLES = 60
const MAX_SURFACES = 24

/** Points of each surface of a mesh; none where all of it looks alike. */
function ofEachSurface(mesh: Mesh): SeenPoint[][] {
  const { looks } = mesh
  if (!looks || looks.surfaces.length < 2) return []
  return looks.surfaces
    .slice(0, MAX_SURFACES)
    .map((_, i) => seenPoints(mesh, SURFACE_SAMPLES, (t) => looks.ofTriangle[t] === i))
    .filter((points) => points.length > 0)
}

/** A test of whether a mesh, turned by 360°/k about an axis, coincides with itself in shape and look; null for a mesh without area or extent. */
function homecoming(mesh: Mesh, pivot: Vector, axis: Vector): ((k: number) => boolean) | null {
  const { radius } = sweptCylinder(mesh, pivot, axis)
  if (mesh.indices.length === 0 || !(radius > 0)) return null
  const groups = [seenPoints(mesh, SAMPLES), ...ofEachSurface(mesh)]
  if (groups[0]?.length === 0) return null
  const lies = onSurface(mesh, ALIKE * radius)
  return (k) =>
    groups.every((points) => {
      let missed = 0
      for (const { at, look } of points) {
        if (!lies(turned(at, pivot, axis, (2 * Math.PI) / k), look)) missed++
        if (missed > (1 - ENOUGH) * points.length) return false
      }
      return true
    })
}

/**
 * The fold of a mesh about an axis: the largest k for which its surface, turned by 360°/k, lies on itself within a hundredth of how far it reaches
 * from the axis and looks there as it does here: by material, texture and colours of vertices; Infinity where it is round.
 */
export function meshFold(mesh: Mesh, pivot: Vector, axis: Vector): Fold {
  const allowed = allowedFolds(mesh, pivot, axis)
  const comesHome = allowed.length > 0 ? homecoming(mesh, pivot, axis) : null
  if (!comesHome) return 1
  if (ROUND.every((k) => allowed.includes(k) && comesHome(k))) return Number.POSITIVE_INFINITY
  return allowed.find(comesHome) ?? 1
}

/** Whether a mesh coincides with itself after 360°/fold. True for a fold of 1, which claims nothing. */
export function foldHolds(mesh: Mesh, pivot: Vector, axis: Vector, fold: Fold): boolean {
  if (fold === 1) return true
  const comesHome = homecoming(mesh, pivot, axis)
  return comesHome !== null && (Number.isFinite(fold) ? [fold] : ROUND).every(comesHome)
}
