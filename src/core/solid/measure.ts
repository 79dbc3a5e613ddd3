import { faultsOf, type GatheredFault, gatheredFaults } from './faults'
import { foldHolds, meshFold } from './fold'
import { boundsOf, type Mesh, massCentre, middleOf, scaled, type Vector } from './mesh'
import { type Part, PLACED_AS_IT_IS, placedParts, type SpacePlacement, trianglesIn, wholeMesh } from './model'

/** A part of a model as a document lists it. */
export interface ListedPart {
  /** Not the name of any other. */
  readonly name: string
  /** The node of the file that it is. */
  readonly node: number
  /** The part that it stands in, by its place in the list; −1 for none. */
  readonly within: number
  /** Of itself and all that stands in it. */
  readonly triangles: number
  /** Its centre of mass, in the coordinates of the model. */
  readonly centre: Vector
  /** Its fold about x, y and z of the model, through its centre; 0 is round. */
  readonly folds: Vector
}

/** Facts of a model needed to place and turn it without its file. */
export interface Measures {
  readonly triangles: number
  readonly parts: readonly ListedPart[]
  /** Points that hold all of it between them: x, y, z one after the other. */
  readonly hull: readonly number[]
  /** Least and most of x, y and z. */
  readonly bounds: readonly number[]
  /** Its centre of mass. */
  readonly centre: Vector
  /** Its fold about x, y and z through its centre of mass; 0 is round. */
  readonly folds: Vector
  /** Its faults; unknown for models imported before faults were kept. */
  readonly faults?: readonly GatheredFault[]
}

/** Parts that are listed at the most; what stands in others beyond that moves with them. */
export const MAX_LISTED_PARTS = 400
/** Points of the hull at the most. */
export const MAX_HULL_POINTS = 512
/** A direction in space is never further than about this from one of that many spread evenly, radians. */
const SPREAD = 0.12
/** Folds are computed for at most this many parts, each of at most the second number of triangles. */
const FOLDED_PARTS = 24
const FOLDED_TRIANGLES = 15_000

const AXES: readonly Vector[] = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
]

/**
 * Folds of a mesh about the three axes through a point; 0 stands for round.
 * @param claimed folds that a document states. One that holds is kept, since testing a fold is quicker than finding it
 */
function foldsOf(mesh: Mesh, centre: Vector, claimed?: Vector): Vector {
  return AXES.map((axis, i) => {
    const claim = claimed?.[i]
    if (claim !== undefined && foldHolds(mesh, centre, axis, claim || Number.POSITIVE_INFINITY)) return claim
    const fold = meshFold(mesh, centre, axis)
    return Number.isFinite(fold) ? fold : 0
  }) as unknown as Vector
}

/** Directions spread evenly over a sphere (Fibonacci lattice, Swinbank & Purser 2006). */
function directions(count: number): Vector[] {
  const golden = Math.PI * (3 - Math.sqrt(5))
  return Array.from({ length: count }, (_, i) => {
    const y = 1 - (2 * (i + 0.5)) / count
    const radius = Math.sqrt(1 - y * y)
    return [radius * Math.cos(golden * i), y, radius * Math.sin(golden * i)]
  })
}

/**
 * The directions in which a mesh, pressed or drawn out, is to be looked at so that they are even for the ball that it was: with the covariance of its
 * vertices C = L Lᵀ (Cholesky), L⁻ᵀ u for every direction u. A flat mesh is looked at as one of a thousandth of its width.
 */
function evened(ways: readonly Vector[], positions: ArrayLike<number>, middle: Vector): Vector[] {
  const c = [0, 0, 0, 0, 0, 0]
  for (let i = 0; i < positions.length; i += 3) {
    const [x, y, z] = [0, 1, 2].map((axis) => positions[i + axis] - middle[axis]) as never as Vector
    for (const [at, product] of [x * x, x * y, y * y, x * z, y * z, z * z].entries()) c[at] += product
  }
  const [xx, xy, yy, xz, yz, zz] = c as [number, number, number, number, number, number]
  const least = (xx + yy + zz) * 1e-6
  const a = Math.sqrt(xx + least)
  const b = xy / a
  const d = xz / a
  const e = Math.sqrt(Math.max(yy + least - b * b, least))
  const f = (yz - d * b) / e
  const g = Math.sqrt(Math.max(zz + least - d * d - f * f, least))
  return ways.map(([u, v, w]) => {
    const z = w / g
    const y = (v - f * z) / e
    return [(u - b * y - d * z) / a, y, z]
  })
}

/**
 * Points between which all vertices of a mesh lie: its own where there are few; else those that reach furthest in many directions, moved out by as much
 * as they may miss.
 */
export function hullPoints({ positions }: Mesh): number[] {
  const own = new Map<string, number>()
  for (let i = 0; i < positions.length && own.size <= MAX_HULL_POINTS; i += 3)
    own.set(`${positions[i]} ${positions[i + 1]} ${positions[i + 2]}`, i)
  const at = (i: number) => [positions[i], positions[i + 1], positions[i + 2]]
  if (own.size <= MAX_HULL_POINTS) return [...own.values()].flatMap(at)
  const bounds = boundsOf({ positions, indices: new Uint32Array(0) })
  const middle: Vector = bounds ? middleOf(bounds) : [0, 0, 0]
  const chosen = new Set<number>()
  for (const [x, y, z] of evened(directions(MAX_HULL_POINTS), positions, middle)) {
    let best = 0
    let most = Number.NEGATIVE_INFINITY
    for (let i = 0; i < positions.length; i += 3) {
      const far = x * positions[i] + y * positions[i + 1] + z * positions[i + 2]
      if (far > most) {
        best = i
        most = far
      }
    }
    chosen.add(best)
  }
  const by = 1 / Math.cos(SPREAD)
  return [...chosen].flatMap((i) => at(i).map((value, axis) => middle[axis] + by * (value - middle[axis])))
}

/** A name that none of some others is. */
function ownName(name: string, taken: ReadonlySet<string>): string {
  const wanted = name === '' ? 'Part' : name
  if (!taken.has(wanted)) return wanted
  for (let n = 2; ; n++) if (!taken.has(`${wanted} ${n}`)) return `${wanted} ${n}`
}

const MAX_PART_NAME = 100

/** Every part with where it stands, and the names by which they are told apart. @param claimed as in `measured` */
function listed(parts: readonly Part[], claimed: readonly ListedPart[]): ListedPart[] {
  const claims = new Map(claimed.map(({ node, folds }) => [node, folds]))
  const list: ListedPart[] = []
  const names = new Set<string>()
  const walk = (each: readonly Part[], outer: SpacePlacement, within: number) => {
    for (const part of each) {
      if (part.node === null) continue
      if (list.length >= MAX_LISTED_PARTS) return
      const name = ownName(part.name.slice(0, MAX_PART_NAME), names)
      names.add(name)
      const place = list.length
      const mesh = wholeMesh([{ ...part, placement: placedParts(outer, part.placement) }])
      const centre = massCentre(mesh) ?? middleOf(boundsOf(mesh) ?? { least: [0, 0, 0], most: [0, 0, 0] })
      const triangles = trianglesIn([part])
      const looked = place < FOLDED_PARTS && triangles > 0 && triangles <= FOLDED_TRIANGLES
      const folds: Vector = looked ? foldsOf(mesh, centre, claims.get(part.node)) : [1, 1, 1]
      list.push({ name, node: part.node, within, triangles, centre, folds })
      walk(part.parts, placedParts(outer, part.placement), place)
    }
  }
  walk(parts, PLACED_AS_IT_IS, -1)
  return list
}

const DIGITS = 7
const rounded = (value: number): number => Number(value.toPrecision(DIGITS))
const roundedVector = (vector: Vector): Vector => vector.map(rounded) as unknown as Vector

/**
 * Measures of a model, for placing it.
 * @param claimed measures that a document states; only its folds are used, and only those that hold
 */
export function measured(parts: readonly Part[], claimed?: Measures): Measures {
  const mesh = wholeMesh(parts)
  const bounds = boundsOf(mesh) ?? { least: [0, 0, 0] as Vector, most: [0, 0, 0] as Vector }
  const centre = massCentre(mesh) ?? scaled(middleOf(bounds), 1)
  return {
    triangles: mesh.indices.length / 3,
    parts: listed(parts, claimed?.parts ?? []).map((part) => ({ ...part, centre: roundedVector(part.centre) })),
    hull: hullPoints(mesh).map(rounded),
    bounds: [...bounds.least, ...bounds.most].map(rounded),
    centre: roundedVector(centre),
    folds: foldsOf(mesh, centre, claimed?.folds),
    faults: gatheredFaults(faultsOf(parts)),
  }
}
