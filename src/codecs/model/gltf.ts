import type { Document, GLTF, Mesh, Node, Primitive } from '@gltf-transform/core'
import { MAX_PART_DEPTH, MAX_TRIANGLES, type Part, PLACED_AS_IT_IS, type Surface } from '@/core/solid'
import { meshOf } from './checked'
import { type GltfJson, openGlb } from './glb'
import { ModelError } from './model-error'
import { refusePromises } from './promised'
import { type DecodePicture, looksOf, surfacesOf } from './surfaces'

/** Extensions without which a file cannot be read here, and what is said of them. */
const PACKED = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression', 'KHR_texture_basisu']
/** Modes of primitives that are surfaces (glTF 2.0, § 3.7.2.1): lists, strips and fans of triangles. */
const TRIANGLES = 4
const STRIP = 5
const FAN = 6
/** Largest side of a texture, px. */
const MAX_TEXTURE_PX = 8192

/** Reads the parts of a GLB. @throws ModelError */
export async function readGlb(file: string, bytes: Uint8Array, decode?: DecodePicture): Promise<readonly Part[]> {
  const { ImageUtils } = await import('@gltf-transform/core')
  const { json, bin } = openGlb(file, bytes)
  refuse(file, json)
  refusePromises(file, json, bin)
  for (const [i, { bufferView, mimeType = '' }] of (json.images ?? []).entries()) {
    const view = bufferView === undefined ? undefined : json.bufferViews?.[bufferView]
    if (!view) continue
    const start = view.byteOffset ?? 0
    const picture = new Uint8Array(bin.subarray(start, start + view.byteLength))
    const size = attemptSize(() => ImageUtils.getSize(picture, mimeType))
    if (size && Math.max(...size) > MAX_TEXTURE_PX)
      throw new ModelError(
        `${file} has a picture of ${size[0]} × ${size[1]} px on it (number ${i + 1}); up to ${MAX_TEXTURE_PX} px a side can be drawn. Make it smaller.`,
      )
  }
  try {
    const document = await geometryOf(json, bin)
    const root = document.getRoot()
    const [scene] = [root.getDefaultScene(), ...root.listScenes()].filter(Boolean)
    const nodes = scene ? scene.listChildren() : root.listNodes().filter((node) => !node.getParentNode())
    const all = new Map(root.listNodes().map((node, i) => [node, i]))
    const bones = new Set(root.listSkins().flatMap((skin) => skin.listJoints()))
    // Lamps are an extension, which is not read here.
    const lamps = new Set([...all].filter(([, i]) => json.nodes?.[i]?.extensions).map(([node]) => node))
    const surfaces = await surfacesOf(json, bin, decode)
    const meshes = new Map(root.listMeshes().map((mesh, i) => [mesh, i]))
    const lookOf = (mesh: Mesh, place: number) => surfaces(meshes.get(mesh) ?? -1, place)
    const carries = (node: Node) => node.getCamera() !== null || bones.has(node) || lamps.has(node)
    return nodes.map((node) => partOf(node, { all, carries, lookOf }))
  } catch (error) {
    if (error instanceof ModelError) throw error
    throw new ModelError(`${file} is damaged or breaks off: ${(error as Error).message.split('\n')[0]}`)
  }
}

/** Geometry and placement of a glTF; its materials are read by the renderer. */
export async function geometryOf(json: GltfJson, bin: Uint8Array): Promise<Document> {
  const { WebIO } = await import('@gltf-transform/core')
  const { images: _i, textures: _t, materials: _m, extensionsRequired: _r, extensionsUsed: _u, ...plain } = json
  const meshes = (plain.meshes ?? []).map((mesh) => ({
    ...mesh,
    primitives: (mesh.primitives ?? []).map(({ material: _, extensions: __, ...piece }) => piece),
  }))
  return new WebIO().readJSON({
    json: { ...plain, ...(plain.meshes && { meshes }) } as GLTF.IGLTF,
    resources: { '@glb.bin': new Uint8Array(bin) },
  })
}

function attemptSize(read: () => readonly number[] | null): readonly number[] | null {
  try {
    return read()
  } catch {
    // A picture that cannot be read is left out where it is drawn.
    return null
  }
}

/** Refuses a file that cannot be read, or claims more than it can hold, before anything is unpacked. */
function refuse(file: string, json: GltfJson): void {
  const packed = PACKED.filter((name) => json.extensionsRequired?.includes(name))
  if (packed.length > 0)
    throw new ModelError(
      `${file} is packed with ${packed.join(' and ')}, which is not read here. Export it without compression.`,
    )
  for (const { count } of json.accessors ?? [])
    if (!(count <= 3 * MAX_TRIANGLES))
      throw new ModelError(`${file} claims ${count} vertices in one list; that is more than can be read.`)
  if (!isSoundlyPainted(json))
    throw new ModelError(`${file} is damaged: it names pictures or parts that it does not hold. Export it again.`)
  const within = json.nodes ?? []
  const seen = new Set<number>()
  const visit = (n: number, depth: number) => {
    if (depth > MAX_PART_DEPTH || seen.has(n))
      throw new ModelError(
        `${file} has parts that hold themselves, or stand more than ${MAX_PART_DEPTH} deep in each other.`,
      )
    seen.add(n)
    for (const child of within[n]?.children ?? []) visit(child, depth + 1)
  }
  const held = new Set(within.flatMap(({ children = [] }) => children))
  for (const n of within.keys()) if (!held.has(n)) visit(n, 0)
  if (within.some((_, n) => !seen.has(n))) throw new ModelError(`${file} has parts that hold themselves.`)
}

/** Whether all names are texts, and what surfaces are painted with is there: a renderer reads both. */
function isSoundlyPainted({ nodes, meshes, materials, textures = [], images = [] }: GltfJson): boolean {
  const isName = ({ name }: { readonly name?: unknown }) => name === undefined || typeof name === 'string'
  const isIn = (index: unknown, list: readonly unknown[]) =>
    typeof index === 'number' && Number.isInteger(index) && index >= 0 && index < list.length
  const isPainted = (value: unknown): boolean =>
    typeof value !== 'object' ||
    value === null ||
    Object.entries(value).every(
      ([key, held]) =>
        isPainted(held) && (!/Texture$/.test(key) || typeof held !== 'object' || isIn(held?.index, textures)),
    )
  return (
    [nodes, meshes, materials].every((list) => (list ?? []).every(isName)) &&
    textures.every(({ source }) => source === undefined || isIn(source, images)) &&
    (materials ?? []).every(isPainted)
  )
}

/** Three vertices of each triangle of a primitive; null where they are the vertices in their order. */
function trianglesOf(piece: Primitive, count: number): ArrayLike<number> | null {
  const listed = piece.getIndices()?.getArray() ?? null
  const mode = piece.getMode()
  if (mode === TRIANGLES) return listed
  const at = (i: number): number => (listed ? (listed[i] as number) : i)
  const corners = listed?.length ?? count
  const triangles: number[] = []
  for (let i = 0; i + 2 < corners; i++) {
    // Every second triangle of a strip is wound the other way.
    const [a, b] = mode === FAN ? [0, i + 1] : i % 2 === 0 ? [i, i + 1] : [i + 1, i]
    triangles.push(at(a as number), at(b as number), at(i + 2))
  }
  return triangles
}

/** Facts of a file that reading any part of it needs. */
interface Reading {
  /** Nodes by their numbers. */
  readonly all: ReadonlyMap<Node, number>
  readonly carries: (node: Node) => boolean
  /** The surface of a primitive of a mesh, by its place there. */
  readonly lookOf: (mesh: Mesh, place: number) => Surface | undefined
}

function partOf(node: Node, reading: Reading): Part {
  const { all, carries, lookOf } = reading
  const mesh = node.getMesh()
  const pieces = (mesh?.listPrimitives() ?? [])
    .map((piece, place) => ({ piece, place }))
    .filter(({ piece }) => [TRIANGLES, STRIP, FAN].includes(piece.getMode()))
    .flatMap(({ piece, place }): Part[] => {
      const positions = piece.getAttribute('POSITION')?.getArray()
      if (!positions) return []
      const name = mesh?.getName() || node.getName()
      const own = meshOf(
        name,
        positions,
        trianglesOf(piece, positions.length / 3),
        looksOf(piece, mesh ? lookOf(mesh, place) : undefined),
      )
      return [{ name, node: null, placement: PLACED_AS_IT_IS, mesh: own, parts: [] }]
    })
  const [only] = pieces
  const children = node.listChildren().map((child) => partOf(child, reading))
  const own =
    only && pieces.length === 1 ? { mesh: only.mesh, parts: children } : { mesh: null, parts: [...pieces, ...children] }
  return {
    name: node.getName(),
    node: all.get(node) ?? null,
    placement: [...node.getMatrix()],
    ...own,
    ...(carries(node) && { carries: true }),
  }
}
