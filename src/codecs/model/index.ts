import type { Part } from '@/core/solid'
import { wholeModel } from './checked'
import { readGltf } from './gltf'
import { ModelError } from './model-error'
import { readObj, readPly, readStl } from './plain'

export { ModelError }

type Reader = (file: string, bytes: Uint8Array) => Promise<readonly Part[]>

/** What files of models are read by, by their endings. */
const READERS: Readonly<Record<string, Reader>> = {
  glb: readGltf,
  gltf: readGltf,
  obj: readObj,
  stl: readStl,
  ply: readPly,
}

/** Files of models are no larger than this, bytes. */
export const LARGEST_MODEL = 256 * 1024 * 1024

/** Reads the parts of a model from a file: glTF 2.0 (.glb, .gltf), OBJ, STL or PLY. @throws ModelError */
export async function readModel(file: string, bytes: Uint8Array): Promise<readonly Part[]> {
  if (bytes.length === 0) throw new ModelError(`${file} is empty. Choose another copy of it.`)
  if (bytes.length > LARGEST_MODEL)
    throw new ModelError(`${file} is larger than ${LARGEST_MODEL / 1024 / 1024} MB. Simplify the model first.`)
  const ending = /\.([a-z]+)$/i.exec(file)?.[1]?.toLowerCase() ?? ''
  const read = READERS[ending]
  if (!read)
    throw new ModelError(`${file} is none of ${Object.keys(READERS).join(', ')}. Export the model as one of these.`)
  return wholeModel(file, await read(file, bytes))
}
