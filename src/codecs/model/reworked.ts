import type { Accessor, GLTF } from '@gltf-transform/core'
import { cross, dot, inverseOf, type ListedPart, placedParts, subtract, type Vector } from '@/core/solid'
import { makeGlb, openGlb } from './glb'
import { geometryOf } from './gltf'
import { ModelError } from './model-error'
import { type Standing, standing } from './standing'

/** Something that is changed in the file of a model. Nodes are told by their numbers. */
export type Rework =
  /** Each part has the name that it is listed by. */
  | { readonly to: 'name' }
  | { readonly to: 'rename'; readonly node: number; readonly name: string }
  /** Parts stand in a new group, where they stood. */
  | { readonly to: 'group'; readonly nodes: readonly number[]; readonly name: string }
  /** Nothing is seen of them any more; what stands in them stays. */
  | { readonly to: 'remove'; readonly nodes: readonly number[] }
  /** Faces look to the other side. */
  | { readonly to: 'flip'; readonly nodes: readonly number[] }
  | { readonly to: 'scale'; readonly by: number }

interface Opened {
  readonly file: string
  readonly json: GLTF.IGLTF & { nodes: GLTF.INode[] }
  readonly rest: ReadonlyMap<number, Standing>
  readonly roots: readonly number[]
  readonly bytes: Uint8Array
  /** Puts bytes behind all others; returns the number of the view of them. */
  readonly lay: (bytes: Uint8Array) => number
}

type By<T extends Rework['to']> = Extract<Rework, { readonly to: T }>
const WAYS: { readonly [T in Rework['to']]: (opened: Opened, how: By<T>) => void | Promise<void> } = {
  // Parts have their names before anything is done.
  name: () => {},
  rename: (opened, { node, name }) => {
    nodeOf(opened, node).name = name
  },
  group,
  remove,
  flip,
  scale: ({ json, roots }, { by }) => {
    for (const root of roots) {
      const node = json.nodes[root] as GLTF.INode
      if (node.matrix) node.matrix = node.matrix.map((x, i) => (i % 4 < 3 ? by * x : x))
      else {
        node.scale = (node.scale ?? [1, 1, 1]).map((x) => by * x)
        if (node.translation) node.translation = node.translation.map((x) => by * x)
      }
    }
  },
}

/**
 * A GLB with something changed in it; all else stays as it came. Parts have the names that they are listed by, so that layers still find them.
 * @throws ModelError
 */
export async function reworkedGlb(
  file: string,
  bytes: Uint8Array,
  parts: readonly Pick<ListedPart, 'name' | 'node'>[],
  how: Rework,
): Promise<Uint8Array<ArrayBuffer>> {
  const { json: read, bin } = openGlb(file, bytes)
  const json = structuredClone(read) as Opened['json'] & { bufferViews?: GLTF.IBufferView[] }
  json.nodes ??= []
  const pieces: Uint8Array[] = [bin]
  let size = (bin.length + 3) & ~3
  const lay = (piece: Uint8Array): number => {
    json.bufferViews ??= []
    json.bufferViews.push({ buffer: 0, byteOffset: size, byteLength: piece.length })
    pieces.push(piece)
    size = (size + piece.length + 3) & ~3
    return json.bufferViews.length - 1
  }
  const opened: Opened = { file, json, bytes, lay, ...(await standing(json)) }
  for (const { name, node } of parts) nodeOf(opened, node).name = name
  await (WAYS[how.to] as (opened: Opened, how: Rework) => void | Promise<void>)(opened, how)
  if (pieces.length === 1) return makeGlb(json, bin)
  json.buffers = [{ ...json.buffers?.[0], byteLength: size }]
  const whole = new Uint8Array(size)
  let at = 0
  for (const piece of pieces) {
    whole.set(piece, at)
    at = (at + piece.length + 3) & ~3
  }
  return makeGlb(json, whole)
}

function nodeOf({ file, json }: Opened, index: number): GLTF.INode {
  const node = json.nodes[index]
  if (!node) throw new ModelError(`${file} has no part number ${index}. Bring the model in again.`)
  return node
}

/** Takes a node out of what it stands in. */
function unhook({ json }: Opened, index: number): void {
  const without = (list: number[]) => list.filter((each) => each !== index)
  for (const holder of json.nodes)
    if (holder.children?.includes(index)) {
      holder.children = without(holder.children)
      // An empty list is not valid (glTF 2.0, 5.25.4).
      if (holder.children.length === 0) delete holder.children
    }
  for (const scene of json.scenes ?? []) if (scene.nodes?.includes(index)) scene.nodes = without(scene.nodes)
}

function group(opened: Opened, { nodes, name }: By<'group'>): void {
  const { json, rest, file } = opened
  const chosen = new Set(nodes)
  const isWithin = (index: number): boolean => {
    const within = rest.get(index)?.within ?? -1
    return within >= 0 && (chosen.has(within) || isWithin(within))
  }
  // Children of a taken node come along with it.
  const taken = nodes.filter((node) => !isWithin(node))
  const first = rest.get(taken[0] ?? -1)
  if (!first) throw new ModelError(`${file}: there is nothing to put together.`)
  const index = json.nodes.length
  for (const each of taken) {
    const at = rest.get(each)
    const node = nodeOf(opened, each)
    unhook(opened, each)
    if (!at || at.within === first.within) continue
    const placed = placedParts(inverseOf(first.parent), placedParts(at.parent, at.own))
    for (const path of ['translation', 'rotation', 'scale'] as const) delete node[path]
    node.matrix = [...placed]
  }
  json.nodes.push({ name, children: [...taken] })
  if (first.within >= 0) {
    const holder = nodeOf(opened, first.within)
    holder.children = [...(holder.children ?? []), index]
    return
  }
  const scene = json.scenes?.[json.scene ?? 0]
  if (scene) scene.nodes = [...(scene.nodes ?? []), index]
}

function remove(opened: Opened, { nodes }: By<'remove'>): void {
  for (const index of nodes) {
    const node = nodeOf(opened, index)
    delete node.mesh
    delete node.skin
    if (!node.children?.length) unhook(opened, index)
  }
}

async function flip(opened: Opened, { nodes }: By<'flip'>): Promise<void> {
  const { json, bytes, lay } = opened
  const document = await geometryOf(json, openGlb(opened.file, bytes).bin)
  const read = document.getRoot().listNodes()
  json.accessors ??= []
  const accessors = json.accessors
  const add = (accessor: GLTF.IAccessor): number => accessors.push(accessor) - 1
  const own = json.meshes ?? []
  const turned = new Set<GLTF.IMesh>()
  for (const index of nodes) {
    const node = nodeOf(opened, index)
    const mesh = own[node.mesh ?? -1]
    if (!mesh || turned.has(mesh)) continue
    // Other parts that are the same mesh keep theirs.
    const shared = json.nodes.some((each, i) => each.mesh === node.mesh && !nodes.includes(i))
    const mine = shared ? structuredClone(mesh) : mesh
    if (shared) node.mesh = own.push(mine) - 1
    turned.add(mine)
    for (const [p, piece] of mine.primitives.entries()) {
      const seen = read[index]?.getMesh()?.listPrimitives()[p]
      const positions = seen?.getAttribute('POSITION')
      if (!seen || !positions || seen.getMode() !== 4) continue
      const indices = Uint32Array.from(
        seen.getIndices()?.getArray() ?? Array.from({ length: positions.getCount() }, (_, i) => i),
      )
      for (let i = 0; i + 2 < indices.length; i += 3)
        [indices[i + 1], indices[i + 2]] = [indices[i + 2] as number, indices[i + 1] as number]
      piece.indices = add({
        bufferView: lay(new Uint8Array(indices.buffer)),
        componentType: 5125,
        count: indices.length,
        type: 'SCALAR',
      })
      const normals = seen.getAttribute('NORMAL')
      if (!normals || !lookAway(positions, normals, indices)) continue
      const back = new Float32Array(3 * normals.getCount())
      for (let i = 0; i < normals.getCount(); i++)
        back.set(
          vector(normals, i).map((x) => -x),
          3 * i,
        )
      piece.attributes.NORMAL = add({
        bufferView: lay(new Uint8Array(back.buffer)),
        componentType: 5126,
        count: normals.getCount(),
        type: 'VEC3',
      })
    }
  }
}

const vector = (accessor: Accessor, i: number): Vector => accessor.getElement(i, [0, 0, 0]) as unknown as Vector

/** Whether normals that came with a mesh look to the other side than its faces do. */
function lookAway(positions: Accessor, normals: Accessor, indices: Uint32Array): boolean {
  let agree = 0
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => vector(positions, indices[t + k] as number)) as [Vector, Vector, Vector]
    const face = cross(subtract(b, a), subtract(c, a))
    for (let k = 0; k < 3; k++) agree += dot(face, vector(normals, indices[t + k] as number))
  }
  return agree < 0
}
