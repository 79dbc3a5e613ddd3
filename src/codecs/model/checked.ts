import { type Looks, MAX_PARTS, MAX_TRIANGLES, type Mesh, type Part, partsOf, trianglesIn } from '@/core/solid'
import { ModelError } from './model-error'

/** A mesh of positions and, where there are any, indices of its triangles. @throws ModelError for what is no mesh */
export function meshOf(
  name: string,
  positions: ArrayLike<number>,
  indices: ArrayLike<number> | null,
  looks?: Omit<Looks, 'ofTriangle'>,
): Mesh {
  const called = name === '' ? 'A part' : `“${name}”`
  const count = Math.floor(positions.length / 3)
  for (let i = 0; i < 3 * count; i++)
    if (!Number.isFinite(positions[i]))
      throw new ModelError(`${called} has a vertex that is nowhere (${positions[i]}). Export the model again.`)
  const used = indices ?? Uint32Array.from({ length: count - (count % 3) }, (_, i) => i)
  if (used.length % 3 !== 0) throw new ModelError(`${called} ends in the middle of a triangle. Export the model again.`)
  for (let i = 0; i < used.length; i++)
    if (!((used[i] as number) < count))
      throw new ModelError(`${called} names vertex ${used[i]}; it has ${count}. Export the model again.`)
  // A primitive has one surface.
  const own = looks && { ...looks, ofTriangle: new Uint32Array(used.length / 3) }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(used), ...(own && { looks: own }) }
}

/** A model as it was read, where there is anything of it. @throws ModelError */
export function wholeModel(file: string, parts: readonly Part[]): readonly Part[] {
  let count = 0
  for (const _ of partsOf(parts))
    if (++count > MAX_PARTS) throw new ModelError(`${file} holds more than ${MAX_PARTS} parts.`)
  const triangles = trianglesIn(parts)
  if (triangles === 0) throw new ModelError(`${file} holds no surface: no triangles are in it.`)
  if (triangles > MAX_TRIANGLES)
    throw new ModelError(`${file} holds ${triangles} triangles; up to ${MAX_TRIANGLES} can be read. Simplify it first.`)
  return parts
}
