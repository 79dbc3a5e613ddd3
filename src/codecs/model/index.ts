import type { Part } from '@/core/solid'
import { isZip } from '../project'
import { UnzipError, unzipped } from '../unzip'
import { wholeModel } from './checked'
import { objToGlb, plyToGlb, stlToGlb } from './converted'
import { MODEL_ENDINGS } from './endings'
import { type Beside, isGlb, namedPath, packedGltf } from './glb'
import { readGlb } from './gltf'
import { ModelError } from './model-error'
import type { DecodePicture } from './surfaces'

export { animatedGlb, type ReadMotion, readBackMotion } from './animated'
export { type GltfJson, makeGlb, openGlb } from './glb'
export { type Rework, reworkedGlb } from './reworked'
export { ModelError }

type Packer = (file: string, bytes: Uint8Array, beside: Beside) => Promise<Uint8Array> | Uint8Array

/** How files of models become one GLB, by their endings. */
const PACKERS: Readonly<Record<string, Packer>> = {
  glb: (file, bytes) => {
    if (!isGlb(bytes)) throw new ModelError(`${file} is damaged or breaks off: it is no GLB, whatever its name says.`)
    return bytes
  },
  gltf: packedGltf,
  obj: objToGlb,
  stl: stlToGlb,
  ply: plyToGlb,
}

/** Files of models are no larger than this, bytes. */
const MAX_MODEL_BYTES = 256 * 1024 * 1024

const NOTHING: Beside = new Map()
const endingOf = (file: string): string => /\.([a-z]+)$/i.exec(file)?.[1]?.toLowerCase() ?? ''

/** A model as one GLB, which is kept and drawn, and its parts. */
export interface ReadModel {
  readonly glb: Uint8Array
  readonly parts: readonly Part[]
}

/**
 * Reads a model from a file: glTF 2.0 (.glb, .gltf), OBJ, STL or PLY, with what lies beside it; or a ZIP of these.
 * @param decode reads the pictures of its textures, by which parts that look alike are told; without it textures differ wherever their places do
 * @throws ModelError
 */
export async function readModel(
  file: string,
  bytes: Uint8Array,
  beside: Beside = NOTHING,
  decode?: DecodePicture,
): Promise<ReadModel> {
  if (bytes.length === 0) throw new ModelError(`${file} is empty. Choose another copy of it.`)
  if (bytes.length > MAX_MODEL_BYTES)
    throw new ModelError(`${file} is larger than ${MAX_MODEL_BYTES / 1024 / 1024} MB. Simplify the model first.`)
  if (isZip(bytes)) return readZip(file, bytes, decode)
  const pack = PACKERS[endingOf(file)]
  if (!pack) throw new ModelError(`${file} is none of ${MODEL_ENDINGS.join(', ')}. Export the model as one of these.`)
  try {
    const glb = await pack(file, bytes, beside)
    return { glb, parts: wholeModel(file, await readGlb(file, glb, decode)) }
  } catch (error) {
    if (error instanceof ModelError) throw error
    // Lists that are none, and whatever else a damaged file has where something else is to be.
    throw new ModelError(`${file} is damaged or breaks off: ${(error as Error).message.split('\n')[0]}`)
  }
}

/** An archive of a model may hold at most this many files. */
const MAX_ARCHIVE_FILES = 2000

/**
 * Files of a ZIP by path. Nothing is unpacked that is too large or lies outside of it.
 * @throws ModelError
 */
function unpacked(file: string, bytes: Uint8Array): Beside {
  try {
    const files = unzipped(
      bytes,
      { mostBytes: MAX_MODEL_BYTES, mostFiles: MAX_ARCHIVE_FILES },
      (name) => !name.endsWith('/'),
    )
    return new Map(Object.entries(files).map(([path, held]) => [namedPath(file, path), held]))
  } catch (error) {
    if (error instanceof ModelError) throw error
    if (error instanceof UnzipError && error.why !== 'damaged')
      throw new ModelError(
        `${file} unpacks to more than ${MAX_MODEL_BYTES / 1024 / 1024} MB or ${MAX_ARCHIVE_FILES} files.`,
      )
    throw new ModelError(`${file} is damaged or breaks off: it cannot be unpacked. Pack it again.`)
  }
}

async function readZip(file: string, bytes: Uint8Array, decode?: DecodePicture): Promise<ReadModel> {
  const files = unpacked(file, bytes)
  const rank = (path: string) => MODEL_ENDINGS.indexOf(endingOf(path))
  const [path, other] = [...files.keys()].filter((each) => rank(each) >= 0).sort((a, b) => rank(a) - rank(b))
  if (path === undefined)
    throw new ModelError(`${file} holds no model: none of its files is one of ${MODEL_ENDINGS.join(', ')}.`)
  if (other !== undefined && rank(other) === rank(path))
    throw new ModelError(`${file} holds several models, ${path} and ${other} among them. Pack one of them alone.`)
  const folder = path.slice(0, path.lastIndexOf('/') + 1)
  const held = [...files].filter(([name]) => name.startsWith(folder))
  const beside = new Map(held.map(([name, content]) => [name.slice(folder.length), content]))
  return readModel(path.slice(folder.length), files.get(path) as Uint8Array, beside, decode)
}
