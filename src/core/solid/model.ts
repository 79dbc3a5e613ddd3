import { boundsOf, cross, dot, lengthOf, type Mesh, subtract, type Vector } from './mesh'

/** A placement in space: a matrix of four columns, one after the other. */
export type Placement = readonly number[]

export const PLACED_AS_IT_IS: Placement = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]

/** A part of a model, with what stands in it. */
export interface Part {
  readonly name: string
  readonly placement: Placement
  /** The node of its file that it is; null where it is a piece of one. */
  readonly node: number | null
  /** null for a group. */
  readonly mesh: Mesh | null
  readonly parts: readonly Part[]
}

/** What is wrong with a model, in words. */
export interface ModelFault {
  readonly kind: 'unnamed' | 'doubled' | 'empty-group' | 'flipped' | 'no-area' | 'out-of-scale'
  readonly part: string
  readonly message: string
}

/** So many parts, one in another, and triangles are read. */
export const MOST_PARTS = 20_000
export const DEEPEST_PART = 200
export const MOST_TRIANGLES = 20_000_000

/** Every part, groups before what they hold. */
export function* partsOf(parts: readonly Part[]): Generator<Part> {
  for (const part of parts) {
    yield part
    yield* partsOf(part.parts)
  }
}

/** A placement within another. */
export function placedIn(outer: Placement, inner: Placement): Placement {
  const out: number[] = []
  for (let column = 0; column < 4; column++)
    for (let row = 0; row < 4; row++) {
      let sum = 0
      for (let k = 0; k < 4; k++) sum += (outer[4 * k + row] as number) * (inner[4 * column + k] as number)
      out.push(sum)
    }
  return out
}

/** All triangles of a model where they stand, as one mesh. */
export function wholeMesh(parts: readonly Part[]): Mesh {
  const found: { mesh: Mesh; at: Placement }[] = []
  const gather = (each: readonly Part[], outer: Placement) => {
    for (const part of each) {
      const at = placedIn(outer, part.placement)
      if (part.mesh) found.push({ mesh: part.mesh, at })
      gather(part.parts, at)
    }
  }
  gather(parts, PLACED_AS_IT_IS)
  const positions = new Float32Array(found.reduce((sum, { mesh }) => sum + mesh.positions.length, 0))
  const indices = new Uint32Array(found.reduce((sum, { mesh }) => sum + mesh.indices.length, 0))
  let [vertex, index] = [0, 0]
  for (const { mesh, at } of found) {
    for (const i of mesh.indices) indices[index++] = i + vertex / 3
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const [x, y, z] = [mesh.positions[i] as number, mesh.positions[i + 1] as number, mesh.positions[i + 2] as number]
      for (let row = 0; row < 3; row++)
        positions[vertex++] =
          (at[row] as number) * x + (at[4 + row] as number) * y + (at[8 + row] as number) * z + (at[12 + row] as number)
    }
  }
  return { positions, indices }
}

export const trianglesIn = (parts: readonly Part[]): number =>
  [...partsOf(parts)].reduce((sum, { mesh }) => sum + (mesh ? mesh.indices.length / 3 : 0), 0)

/** The volume that a closed surface encloses; negative where its faces look inwards. */
function signedVolume({ positions, indices }: Mesh, origin: Vector): number {
  let volume = 0
  const at = (i: number): Vector =>
    subtract([positions[3 * i] as number, positions[3 * i + 1] as number, positions[3 * i + 2] as number], origin)
  for (let t = 0; t < indices.length; t += 3)
    volume += dot(at(indices[t] as number), cross(at(indices[t + 1] as number), at(indices[t + 2] as number))) / 6
  return volume
}

/** A model is taken to be measured in metres between these sizes; others are likely in other units. */
const SIZES = { least: 0.005, most: 500 }

/** What is wrong with a model that can be mended, or will surprise. */
export function faultsOf(parts: readonly Part[]): ModelFault[] {
  const faults: ModelFault[] = []
  const names = new Map<string, number>()
  // Pieces of one part that are painted differently have its name.
  for (const { name, node } of partsOf(parts)) if (node !== null) names.set(name, (names.get(name) ?? 0) + 1)
  for (const [name, count] of names) {
    const many = count > 1 ? `${count} parts` : 'A part'
    if (name === '') faults.push({ kind: 'unnamed', part: '', message: `${many} without a name.` })
    else if (count > 1) faults.push({ kind: 'doubled', part: name, message: `${count} parts are called “${name}”.` })
  }
  for (const { name, mesh, parts: held } of partsOf(parts)) {
    const called = name === '' ? 'A part without a name' : `“${name}”`
    if (!mesh && held.length === 0)
      faults.push({ kind: 'empty-group', part: name, message: `${called} is a group that holds nothing.` })
    const bounds = mesh && boundsOf(mesh)
    if (!mesh || !bounds) continue
    const size = lengthOf(subtract(bounds.most, bounds.least))
    const volume = signedVolume(mesh, bounds.least)
    if (!(size > 0)) faults.push({ kind: 'no-area', part: name, message: `${called} is a single point.` })
    else if (volume < -1e-3 * size ** 3)
      faults.push({ kind: 'flipped', part: name, message: `${called} has faces that look inwards.` })
  }
  const bounds = boundsOf(wholeMesh(parts))
  const size = bounds ? lengthOf(subtract(bounds.most, bounds.least)) : 0
  if (bounds && (size < SIZES.least || size > SIZES.most))
    faults.push({
      kind: 'out-of-scale',
      part: '',
      message: `It is ${Number(size.toPrecision(3))} units large: it may be measured in something other than metres.`,
    })
  return faults
}
