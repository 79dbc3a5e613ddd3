import type { GLTF, Node } from '@gltf-transform/core'
import { DEEPEST_PART, MOST_TRIANGLES, type Part } from '@/core/solid'
import { meshOf } from './checked'
import { ModelError } from './model-error'

/** Extensions without which the triangles of a file cannot be read here. */
const PACKED = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression']
const GLB_MAGIC = 0x46546c67
const TRIANGLES = 4

/** Reads the parts of a glTF 2.0 file, JSON with what it holds in itself, or GLB. @throws ModelError */
export async function readGltf(file: string, bytes: Uint8Array): Promise<readonly Part[]> {
  const { WebIO } = await import('@gltf-transform/core')
  const isBinary = bytes.length > 3 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === GLB_MAGIC
  const io = new WebIO()
  try {
    const json = isBinary
      ? (await io.binaryToJSON(bytes)).json
      : (JSON.parse(new TextDecoder().decode(bytes)) as GLTF.IGLTF)
    refuse(file, json)
    const document = isBinary
      ? await io.readBinary(bytes)
      : await io.readJSON({ json, resources: embedded(file, json) })
    const root = document.getRoot()
    const [scene] = [root.getDefaultScene(), ...root.listScenes()].filter(Boolean)
    const nodes = scene ? scene.listChildren() : root.listNodes().filter((node) => !node.getParentNode())
    return nodes.map((node) => partOf(file, node, 0))
  } catch (error) {
    if (error instanceof ModelError) throw error
    throw new ModelError(`${file} is damaged or breaks off: ${(error as Error).message.split('\n')[0]}`)
  }
}

/** What cannot be read, or claims more than it can hold, before anything is unpacked. */
function refuse(file: string, json: GLTF.IGLTF): void {
  const packed = PACKED.filter((name) => json.extensionsRequired?.includes(name))
  if (packed.length > 0)
    throw new ModelError(
      `${file} is packed with ${packed.join(' and ')}, which is not read here. Export it without compression.`,
    )
  for (const { count } of json.accessors ?? [])
    if (!(count <= 3 * MOST_TRIANGLES))
      throw new ModelError(`${file} claims ${count} vertices in one list; that is more than can be read.`)
  const within = json.nodes ?? []
  const seen = new Set<number>()
  const visit = (n: number, depth: number) => {
    if (depth > DEEPEST_PART || seen.has(n))
      throw new ModelError(
        `${file} has parts that hold themselves, or stand more than ${DEEPEST_PART} deep in each other.`,
      )
    seen.add(n)
    for (const child of within[n]?.children ?? []) visit(child, depth + 1)
  }
  const held = new Set(within.flatMap(({ children = [] }) => children))
  for (const n of within.keys()) if (!held.has(n)) visit(n, 0)
  if (within.some((_, n) => !seen.has(n))) throw new ModelError(`${file} has parts that hold themselves.`)
}

/** The buffers that a JSON file holds in itself; others lie beside it, where they are not looked for. */
function embedded(file: string, json: GLTF.IGLTF): Record<string, Uint8Array<ArrayBuffer>> {
  for (const { uri } of json.buffers ?? [])
    if (uri && !uri.startsWith('data:'))
      throw new ModelError(
        `${file} needs “${uri}”, which lies beside it. Save the model as a .glb, which holds everything.`,
      )
  return {}
}

function partOf(file: string, node: Node, depth: number): Part {
  const mesh = node.getMesh()
  const pieces = (mesh?.listPrimitives() ?? [])
    .filter((piece) => piece.getMode() === TRIANGLES)
    .flatMap((piece): Part[] => {
      const positions = piece.getAttribute('POSITION')?.getArray()
      if (!positions) return []
      const name = mesh?.getName() || node.getName()
      return [
        { name, placement: IDENTITY, mesh: meshOf(name, positions, piece.getIndices()?.getArray() ?? null), parts: [] },
      ]
    })
  const [only] = pieces
  const children = node.listChildren().map((child) => partOf(file, child, depth + 1))
  const own =
    only && pieces.length === 1 ? { mesh: only.mesh, parts: children } : { mesh: null, parts: [...pieces, ...children] }
  return { name: node.getName(), placement: [...node.getMatrix()], ...own }
}

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
