import type { Document, Material } from '@gltf-transform/core'
import type { BufferGeometry, Mesh as ThreeMesh } from 'three'
import { type Beside, namedPath } from './glb'
import { ModelError } from './model-error'
import { refuseObj, refusePly, refuseStl } from './promised'

/** Faces that meet at less than this are one smooth surface where a file says nothing of that, radians. */
const CREASE = Math.PI / 5

const bufferOf = (bytes: Uint8Array): ArrayBuffer => new Uint8Array(bytes).buffer
const nameOf = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '')

/** A part that is to be put into a glTF. */
interface Piece {
  readonly name: string
  readonly geometry: BufferGeometry
  /** By the groups of the geometry; one for all of it where it has none. */
  readonly materials: readonly string[]
}

/** How a surface is painted, from the file that describes that (MTL). */
interface Paint {
  readonly colour: readonly [number, number, number]
  readonly opacity: number
  readonly picture: { readonly bytes: Uint8Array; readonly type: string } | null
}

const PLAIN: Paint = { colour: [0.8, 0.8, 0.8], opacity: 1, picture: null }

/** Reads an OBJ file with the MTL files and pictures that lie beside it. @throws ModelError */
export async function objToGlb(file: string, bytes: Uint8Array, beside: Beside): Promise<Uint8Array<ArrayBuffer>> {
  const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js')
  const text = new TextDecoder().decode(bytes)
  refuseObj(file, text)
  const { children } = attempt(file, () => new OBJLoader().parse(text))
  const pieces = children.flatMap((child): Piece[] => {
    if (!('isMesh' in child)) return []
    const { name, geometry, material } = child as ThreeMesh
    const all = Array.isArray(material) ? material : [material]
    return [{ name, geometry, materials: all.map((each) => each.name) }]
  })
  return glbOf(file, pieces, await paintsOf(file, text, beside), false)
}

/** The paints of the MTL files that an OBJ names, by their names. */
async function paintsOf(file: string, text: string, beside: Beside): Promise<ReadonlyMap<string, Paint>> {
  const { MTLLoader } = await import('three/examples/jsm/loaders/MTLLoader.js')
  const paints = new Map<string, Paint>()
  for (const [, named = ''] of text.matchAll(/^\s*mtllib\s+(.+?)\s*$/gm)) {
    const found = beside.get(namedPath(file, named))
    if (!found) continue
    const { materialsInfo } = attempt(named, () => new MTLLoader().parse(new TextDecoder().decode(found), ''))
    for (const [name, info] of Object.entries(materialsInfo)) {
      const colour = (info.kd?.map(Number) ?? PLAIN.colour) as unknown as Paint['colour']
      const path = info.map_kd?.trim().split(/\s+/).at(-1)
      const picture = path === undefined ? undefined : beside.get(namedPath(named, path))
      const type = /\.jpe?g$/i.test(path ?? '') ? 'image/jpeg' : 'image/png'
      const opacity = info.d === undefined ? 1 : Number(info.d)
      paints.set(name, { colour, opacity, picture: picture ? { bytes: picture, type } : null })
    }
  }
  return paints
}

/** Reads an STL file, binary or text: one part, standing on its z axis as these files do. @throws ModelError */
export async function stlToGlb(file: string, bytes: Uint8Array): Promise<Uint8Array<ArrayBuffer>> {
  refuseStl(file, bytes)
  const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js')
  const geometry = attempt(file, () => new STLLoader().parse(bufferOf(bytes)))
  return glbOf(file, [{ name: nameOf(file), geometry, materials: [''] }], new Map(), true)
}

/** Reads a PLY file, binary or text: one part, with the colours of its vertices. @throws ModelError */
export async function plyToGlb(file: string, bytes: Uint8Array): Promise<Uint8Array<ArrayBuffer>> {
  refusePly(file, bytes)
  const { PLYLoader } = await import('three/examples/jsm/loaders/PLYLoader.js')
  const geometry = attempt(file, () => new PLYLoader().parse(bufferOf(bytes)))
  return glbOf(file, [{ name: nameOf(file), geometry, materials: [''] }], new Map(), true)
}

async function glbOf(
  file: string,
  pieces: readonly Piece[],
  paints: ReadonlyMap<string, Paint>,
  lies: boolean,
): Promise<Uint8Array<ArrayBuffer>> {
  const [{ Document, WebIO }, { toCreasedNormals }] = await Promise.all([
    import('@gltf-transform/core'),
    import('three/examples/jsm/utils/BufferGeometryUtils.js'),
  ])
  const document = new Document()
  const scene = document.createScene(nameOf(file))
  const buffer = document.createBuffer()
  const materials = new Map<string, Material>()
  for (const { name, geometry, materials: names } of pieces) {
    if (!geometry.getAttribute('position')) continue
    const smooth = geometry.getAttribute('normal') && !lies ? geometry : toCreasedNormals(geometry, CREASE)
    const mesh = document.createMesh(name)
    const whole = { start: 0, count: smooth.getAttribute('position').count, materialIndex: 0 }
    for (const { start, count, materialIndex = 0 } of smooth.groups.length > 0 ? smooth.groups : [whole]) {
      const piece = document.createPrimitive()
      for (const [from, to] of [
        ['position', 'POSITION'],
        ['normal', 'NORMAL'],
        ['uv', 'TEXCOORD_0'],
        ['color', 'COLOR_0'],
      ] as const) {
        const attribute = smooth.getAttribute(from)
        if (!attribute) continue
        const size = attribute.itemSize
        const values = Float32Array.from(attribute.array.slice(size * start, size * (start + count)))
        // Pictures stand on their heads there.
        if (from === 'uv') for (let i = 1; i < values.length; i += 2) values[i] = 1 - (values[i] as number)
        const type = size === 2 ? 'VEC2' : size === 3 ? 'VEC3' : 'VEC4'
        piece.setAttribute(to, document.createAccessor().setType(type).setArray(values).setBuffer(buffer))
      }
      const indices = smooth.getIndex()
      if (indices) {
        const list = Uint32Array.from(indices.array)
        piece.setIndices(document.createAccessor().setType('SCALAR').setArray(list).setBuffer(buffer))
      }
      mesh.addPrimitive(piece.setMaterial(materialOf(document, materials, names[materialIndex] ?? '', paints)))
    }
    const node = document.createNode(name).setMesh(mesh)
    if (lies) node.setRotation([-Math.SQRT1_2, 0, 0, Math.SQRT1_2])
    scene.addChild(node)
  }
  return new Uint8Array(await new WebIO().writeBinary(document))
}

function materialOf(
  document: Document,
  known: Map<string, Material>,
  name: string,
  paints: ReadonlyMap<string, Paint>,
): Material {
  const found = known.get(name)
  if (found) return found
  const { colour, opacity, picture } = paints.get(name) ?? PLAIN
  const made = document
    .createMaterial(name)
    .setMetallicFactor(0)
    .setRoughnessFactor(0.7)
    .setBaseColorFactor([...(picture ? ([1, 1, 1] as const) : colour.map(linear)), opacity] as never)
    .setAlphaMode(opacity < 1 ? 'BLEND' : 'OPAQUE')
    .setDoubleSided(true)
  if (picture)
    made.setBaseColorTexture(
      document.createTexture(name).setImage(new Uint8Array(picture.bytes)).setMimeType(picture.type),
    )
  known.set(name, made)
  return made
}

/** sRGB to linear light (IEC 61966-2-1). */
const linear = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)

function attempt<T>(file: string, read: () => T): T {
  try {
    return read()
  } catch (error) {
    throw new ModelError(`${file} is damaged or breaks off: ${(error as Error).message.split('\n')[0]}`)
  }
}
