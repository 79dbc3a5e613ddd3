import { joinedLooks } from './looks'
import type { Mesh } from './mesh'

/** A placement in space: a matrix of four columns, one after the other. */
export type SpacePlacement = readonly number[]

export const PLACED_AS_IT_IS: SpacePlacement = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** A part of a model, with what stands in it. */
export interface Part {
  readonly name: string
  readonly placement: SpacePlacement
  /** The node of its file that it is; null where it is a piece of one. */
  readonly node: number | null
  /** null for a group. */
  readonly mesh: Mesh | null
  readonly parts: readonly Part[]
  /** Whether something hangs on it that is not seen: a camera, a lamp, a bone. */
  readonly carries?: boolean
}

/** Limits of parts, of their nesting, and of triangles in a model that is read. */
export const MAX_PARTS = 20_000
export const MAX_PART_DEPTH = 200
export const MAX_TRIANGLES = 20_000_000

/** Every part, groups before what they hold. */
export function* partsOf(parts: readonly Part[]): Generator<Part> {
  for (const part of parts) {
    yield part
    yield* partsOf(part.parts)
  }
}

/** A placement within another. */
export function placedParts(outer: SpacePlacement, inner: SpacePlacement): SpacePlacement {
  const out: number[] = []
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) {
      let sum = 0
      for (let k = 0; k < 4; k++) sum += outer[4 * k + row] * inner[4 * column + k]
      out.push(sum)
    }
  return out
}

/** The inverse of a placement that has one, by its cofactors. */
export function inverseOf(of: SpacePlacement): SpacePlacement {
  const at = (row: number, column: number) => of[4 * column + row]
  const minor = (r: number, c: number) => {
    const [a, b] = [0, 1, 2].filter((i) => i !== r) as [number, number]
    const [d, e] = [0, 1, 2].filter((i) => i !== c) as [number, number]
    return (r + c) % 2 === 0 ? at(a, d) * at(b, e) - at(a, e) * at(b, d) : at(a, e) * at(b, d) - at(a, d) * at(b, e)
  }
  const determinant = at(0, 0) * minor(0, 0) + at(0, 1) * minor(0, 1) + at(0, 2) * minor(0, 2)
  const out = new Array<number>(16).fill(0)
  for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) out[4 * c + r] = minor(c, r) / determinant
  for (let r = 0; r < 3; r++) out[12 + r] = -[0, 1, 2].reduce((sum, k) => sum + out[4 * k + r] * of[12 + k], 0)
  out[15] = 1
  return out
}

/** All triangles of a model where they stand, as one mesh. */
export function wholeMesh(parts: readonly Part[]): Mesh {
  const found: { mesh: Mesh; at: SpacePlacement }[] = []
  const gather = (each: readonly Part[], outer: SpacePlacement) => {
    for (const part of each) {
      const at = placedParts(outer, part.placement)
      if (part.mesh) found.push({ mesh: part.mesh, at })
      gather(part.parts, at)
    }
  }
  gather(parts, PLACED_AS_IT_IS)
  const positions = new Float32Array(found.reduce((sum, { mesh }) => sum + mesh.positions.length, 0))
  const indices = new Uint32Array(found.reduce((sum, { mesh }) => sum + mesh.indices.length, 0))
  let vertex = 0
  let index = 0
  for (const { mesh, at } of found) {
    for (const i of mesh.indices) indices[index++] = i + vertex / 3
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const x = mesh.positions[i]
      const y = mesh.positions[i + 1]
      const z = mesh.positions[i + 2]
      for (let row = 0; row < 3; row++)
        positions[vertex++] = at[row] * x + at[4 + row] * y + at[8 + row] * z + at[12 + row]
    }
  }
  const looks = joinedLooks(
    found.map(({ mesh }) => ({
      looks: mesh.looks,
      vertices: mesh.positions.length / 3,
      triangles: mesh.indices.length / 3,
    })),
  )
  return { positions, indices, ...(looks && { looks }) }
}

export const trianglesIn = (parts: readonly Part[]): number =>
  [...partsOf(parts)].reduce((sum, { mesh }) => sum + (mesh ? mesh.indices.length / 3 : 0), 0)
