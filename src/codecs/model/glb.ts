import type { GLTF } from '@gltf-transform/core'
import { ModelError } from './model-error'

/** The container of glTF 2.0, section 4.4: a header, a chunk of JSON and one of bytes. */
const MAGIC = 0x46546c67
const JSON_CHUNK = 0x4e4f534a
const BIN_CHUNK = 0x004e4942

export type GltfJson = GLTF.IGLTF

/** Files beside a model, by their relative paths. */
export type Beside = ReadonlyMap<string, Uint8Array>

export const isGlb = (bytes: Uint8Array): boolean =>
  bytes.length >= 12 && new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) === MAGIC

/** The JSON of a GLB and its bytes. @throws ModelError */
export function openGlb(file: string, bytes: Uint8Array): { readonly json: GltfJson; readonly bin: Uint8Array } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const broken = new ModelError(`${file} is damaged or breaks off. Export or fetch it again.`)
  if (!isGlb(bytes)) throw broken
  if (view.getUint32(4, true) !== 2)
    throw new ModelError(`${file} is glTF of version ${view.getUint32(4, true)}. Export it as glTF 2.0.`)
  if (view.getUint32(8, true) > bytes.length) throw broken
  let json: GltfJson | null = null
  let bin: Uint8Array = new Uint8Array(0)
  for (let at = 12; at + 8 <= bytes.length; ) {
    const length = view.getUint32(at, true)
    const type = view.getUint32(at + 4, true)
    if (at + 8 + length > bytes.length) throw broken
    const chunk = bytes.subarray(at + 8, at + 8 + length)
    if (type === JSON_CHUNK && !json) json = parsed(file, chunk)
    else if (type === BIN_CHUNK && bin.length === 0) bin = chunk
    at += 8 + length
  }
  if (!json) throw broken
  return { json, bin }
}

function parsed(file: string, bytes: Uint8Array): GltfJson {
  try {
    const json: unknown = JSON.parse(new TextDecoder().decode(bytes))
    if (typeof json === 'object' && json !== null && 'asset' in json) {
      const { version } = (json.asset ?? {}) as { readonly version?: unknown }
      if (!String(version).startsWith('2.'))
        throw new ModelError(`${file} is glTF of version ${version}. Export it as glTF 2.0.`)
      return json as GltfJson
    }
  } catch (error) {
    if (error instanceof ModelError) throw error
    // Said below, as anything else that is no glTF.
  }
  throw new ModelError(`${file} is damaged or breaks off: it is no glTF. Export or fetch it again.`)
}

const padded = (length: number) => (length + 3) & ~3

/** A GLB of JSON and bytes. */
export function makeGlb(json: GltfJson, bin: Uint8Array): Uint8Array<ArrayBuffer> {
  const text = new TextEncoder().encode(JSON.stringify(json))
  const jsonSize = padded(text.length)
  const binSize = padded(bin.length)
  const out = new Uint8Array(12 + 8 + jsonSize + (binSize > 0 ? 8 + binSize : 0))
  const view = new DataView(out.buffer)
  for (const [i, value] of [MAGIC, 2, out.length, jsonSize, JSON_CHUNK].entries()) view.setUint32(4 * i, value, true)
  out.fill(0x20, 20, 20 + jsonSize)
  out.set(text, 20)
  if (binSize > 0) {
    view.setUint32(20 + jsonSize, binSize, true)
    view.setUint32(24 + jsonSize, BIN_CHUNK, true)
    out.set(bin, 28 + jsonSize)
  }
  return out
}

const DATA_URI = /^data:([^;,]*)(;base64)?,/

/**
 * Bytes that a URI in a glTF names: embedded in it, or a file beside it.
 * @throws ModelError
 */
function bytesAt(file: string, uri: string, beside: Beside): Uint8Array {
  const data = DATA_URI.exec(uri)
  if (data) {
    const body = uri.slice(data[0].length)
    try {
      return data[2]
        ? Uint8Array.from(atob(body), (c) => c.charCodeAt(0))
        : new TextEncoder().encode(decodeURIComponent(body))
    } catch {
      throw new ModelError(`${file} is damaged: what it holds in itself cannot be read. Export it again.`)
    }
  }
  const found = beside.get(namedPath(file, uri))
  if (!found)
    throw new ModelError(
      `${file} needs “${uri}”, which lies beside it. Drop both together, a ZIP of them, or save the model as a .glb, which holds everything.`,
    )
  return found
}

/** A path as a file names it, from the folder it lies in. @throws ModelError for one that leaves it */
export function namedPath(file: string, path: string): string {
  let plain = path
  try {
    plain = decodeURIComponent(path)
  } catch {
    // A name with a per cent sign in it is taken as it stands.
  }
  const steps: string[] = []
  for (const step of plain.replaceAll('\\', '/').split('/')) {
    if (step === '' || step === '.') continue
    if (step === '..' && steps.pop() === undefined)
      throw new ModelError(`${file} asks for “${path}”, outside of its own folder. It is left alone.`)
    if (step !== '..') steps.push(step)
  }
  return steps.join('/')
}

const TYPES: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
}

/**
 * One GLB of a glTF in JSON and what lies beside it. All else stays as it came: names, placement, extensions and extra data are not read here.
 * @throws ModelError
 */
export function packedGltf(file: string, bytes: Uint8Array, beside: Beside): Uint8Array<ArrayBuffer> {
  const json = structuredClone(parsed(file, bytes)) as GltfJson & {
    bufferViews?: GLTF.IBufferView[]
    images?: GLTF.IImage[]
  }
  const pieces: Uint8Array[] = []
  let size = 0
  const lay = (piece: Uint8Array): number => {
    const at = size
    pieces.push(piece)
    size = padded(size + piece.length)
    return at
  }
  const starts = (json.buffers ?? []).map(({ uri }) =>
    lay(uri === undefined ? new Uint8Array(0) : bytesAt(file, uri, beside)),
  )
  for (const view of json.bufferViews ?? []) {
    view.byteOffset = (view.byteOffset ?? 0) + (starts[view.buffer] ?? 0)
    view.buffer = 0
  }
  for (const image of json.images ?? []) {
    if (image.uri === undefined) continue
    const piece = bytesAt(file, image.uri, beside)
    json.bufferViews ??= []
    const type = DATA_URI.exec(image.uri)?.[1] || TYPES[image.uri.split('.').at(-1)?.toLowerCase() ?? '']
    image.bufferView = json.bufferViews.length
    if (type) image.mimeType = type
    json.bufferViews.push({ buffer: 0, byteOffset: lay(piece), byteLength: piece.length })
    delete image.uri
  }
  if (size > 0) json.buffers = [{ byteLength: size }]
  const bin = new Uint8Array(size)
  let at = 0
  for (const piece of pieces) {
    bin.set(piece, at)
    at = padded(at + piece.length)
  }
  return makeGlb(json, bin)
}
