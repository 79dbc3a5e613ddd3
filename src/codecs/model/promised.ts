import { MAX_PARTS, MAX_TRIANGLES } from '@/core/solid'
import type { GltfJson } from './glb'
import { ModelError } from './model-error'

/** Bytes of each component of an accessor (glTF 2.0, § 3.6.2.2), and how many an element has (§ 3.6.2.1). */
const BYTES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 }
const COMPONENTS: Readonly<Record<string, number>> = {
  SCALAR: 1,
  VEC2: 2,
  VEC3: 3,
  VEC4: 4,
  MAT2: 4,
  MAT3: 9,
  MAT4: 16,
}

const isCount = (value: unknown): value is number => Number.isSafeInteger(value) && (value as number) >= 0

/**
 * Holds what a glTF promises against the bytes behind it, before anything is copied: lists against their views, views against the file, and how many
 * triangles, vertices and parts the scene has with everything that stands in it more than once. Names of files are refused, too: nothing is fetched.
 * @throws ModelError
 */
export function refusePromises(file: string, json: GltfJson, bin: Uint8Array): void {
  const damaged = (what: string) => new ModelError(`${file} is damaged: ${what}. Export it again.`)
  for (const uri of urisIn(json))
    if (!/^data:/i.test(uri))
      throw new ModelError(
        `${file} names “${uri.slice(0, 100)}”, which is not in it, and nothing is fetched. Export the model with its pictures in it.`,
      )
  const views = json.bufferViews ?? []
  for (const { byteOffset = 0, byteLength, byteStride = 0 } of views)
    if (!isCount(byteOffset) || !isCount(byteLength) || !isCount(byteStride) || byteOffset + byteLength > bin.length)
      throw damaged('it promises more bytes than it has')
  let unbacked = 0
  const accessors = json.accessors ?? []
  for (const { count, type, componentType, bufferView, byteOffset = 0, sparse } of accessors) {
    const each = (BYTES[componentType] ?? Number.NaN) * (COMPONENTS[type] ?? Number.NaN)
    if (!isCount(count) || !isCount(byteOffset) || !(each > 0)) throw damaged('it has a list of nothing known')
    if (sparse && !(sparse.count <= count)) throw damaged('it changes more of a list than that has')
    if (bufferView === undefined) unbacked += count
    else {
      const view = views[bufferView]
      const stride = view?.byteStride || each
      if (!view || (count > 0 && byteOffset + stride * (count - 1) + each > view.byteLength))
        throw damaged(`it promises ${count} vertices or numbers in a list, and does not hold them`)
    }
  }
  if (unbacked > bin.length) throw damaged(`it promises ${unbacked} numbers of which it holds none`)
  refuseTotals(file, json)
}

/** Every address that stands anywhere in a glTF, extensions among it. */
function urisIn(value: unknown): string[] {
  if (typeof value !== 'object' || value === null) return []
  return Object.entries(value).flatMap(([key, held]) =>
    key === 'uri' && typeof held === 'string' ? [held] : urisIn(held),
  )
}

/** Cost of one placement of a mesh. */
interface Cost {
  readonly triangles: number
  readonly vertices: number
  readonly pieces: number
}

function refuseTotals(file: string, { accessors = [], meshes = [], nodes = [] }: GltfJson): void {
  const countOf = (index: number | undefined): number => (index === undefined ? 0 : (accessors[index]?.count ?? 0))
  const costs = meshes.map(({ primitives = [] }): Cost => {
    let triangles = 0
    let vertices = 0
    for (const { indices, attributes, mode = 4 } of primitives) {
      const corners = countOf(indices ?? attributes?.POSITION)
      triangles += mode === 4 ? corners / 3 : Math.max(0, corners - 2)
      vertices += countOf(attributes?.POSITION)
    }
    return { triangles, vertices, pieces: primitives.length }
  })
  let triangles = 0
  let vertices = 0
  let parts = nodes.length
  for (const { mesh } of nodes) {
    const cost = mesh === undefined ? undefined : costs[mesh]
    triangles += cost?.triangles ?? 0
    vertices += cost?.vertices ?? 0
    parts += cost?.pieces ?? 0
  }
  if (triangles > MAX_TRIANGLES || vertices > 3 * MAX_TRIANGLES)
    throw new ModelError(
      `${file} shows ${Math.round(triangles)} triangles and ${vertices} vertices, each as often as it stands in it; up to ${MAX_TRIANGLES} triangles can be read. Simplify it first.`,
    )
  if (parts > MAX_PARTS) throw new ModelError(`${file} holds more than ${MAX_PARTS} parts.`)
}

/** Bytes of the types of a PLY file. */
const PLY_BYTES: Readonly<Record<string, number>> = {
  char: 1,
  uchar: 1,
  int8: 1,
  uint8: 1,
  short: 2,
  ushort: 2,
  int16: 2,
  uint16: 2,
  int: 4,
  uint: 4,
  int32: 4,
  uint32: 4,
  float: 4,
  float32: 4,
  double: 8,
  float64: 8,
}
/** A header is no longer than this, bytes. */
const MAX_HEADER_BYTES = 64 * 1024

/** Holds the counts in the header of a PLY file against the bytes behind it. @throws ModelError */
export function refusePly(file: string, bytes: Uint8Array): void {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, MAX_HEADER_BYTES))
  const end = text.indexOf('end_header')
  if (!text.startsWith('ply') || end < 0)
    throw new ModelError(`${file} is damaged or breaks off: it has no header of a PLY file.`)
  const isText = /^format\s+ascii/m.test(text)
  let least = 0
  let element: { readonly count: number; bytes: number } | null = null
  const close = () => {
    if (element) least += element.count * element.bytes
  }
  for (const line of text.slice(0, end).split(/\r?\n/)) {
    const [what, first, second] = line.trim().split(/\s+/)
    if (what === 'element') {
      close()
      element = { count: Number(second), bytes: 0 }
      if (!isCount(element.count)) throw new ModelError(`${file} is damaged: it promises “${second}” of “${first}”.`)
    } else if (what === 'property' && element)
      // In text a digit and what parts it from the next; in a list at least its count.
      element.bytes += isText ? 2 : (PLY_BYTES[(first === 'list' ? second : first) ?? ''] ?? 1)
  }
  close()
  // The last number of a text needs nothing behind it.
  if (least > bytes.length - end + 1)
    throw new ModelError(`${file} is damaged or breaks off: it promises more vertices and faces than it holds.`)
}

/** Of a binary STL: its header, and what a triangle takes, bytes. */
const STL = { header: 84, triangle: 50 }

/** Holds the count of triangles in a binary STL file against the bytes behind it. @throws ModelError */
export function refuseStl(file: string, bytes: Uint8Array): void {
  const opens = new TextDecoder('latin1').decode(bytes.subarray(0, 10))
  if (opens.includes('solid') || bytes.length < STL.header) return
  const count = new DataView(bytes.buffer, bytes.byteOffset).getUint32(STL.header - 4, true)
  if (STL.header + count * STL.triangle > bytes.length)
    throw new ModelError(
      `${file} is damaged or breaks off: it promises ${count} triangles and holds ${Math.floor((bytes.length - STL.header) / STL.triangle)}.`,
    )
}

/** Holds the corners of all faces of an OBJ file against what can be read. @throws ModelError */
export function refuseObj(file: string, text: string): void {
  let triangles = 0
  for (const [, corners = ''] of text.matchAll(/^\s*f\s+(.*)$/gm)) {
    triangles += Math.max(0, corners.trim().split(/\s+/).length - 2)
    if (triangles > MAX_TRIANGLES)
      throw new ModelError(`${file} holds more than ${MAX_TRIANGLES} triangles. Simplify it first.`)
  }
}
