import type { BufferGeometry, Object3D } from 'three'
import { type Part, PLACED_AS_IT_IS } from '@/core/solid'
import { meshOf } from './checked'
import { ModelError } from './model-error'

const geometryPart = (name: string, geometry: BufferGeometry): Part => {
  const positions = geometry.getAttribute('position')
  return {
    name,
    placement: PLACED_AS_IT_IS,
    mesh: positions ? meshOf(name, positions.array, geometry.getIndex()?.array ?? null) : null,
    parts: [],
  }
}

const bufferOf = (bytes: Uint8Array): ArrayBuffer => new Uint8Array(bytes).buffer

/** Reads an STL file, binary or text: one part. @throws ModelError */
export async function readStl(file: string, bytes: Uint8Array): Promise<readonly Part[]> {
  const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js')
  return attempt(file, () => [geometryPart(nameOf(file), new STLLoader().parse(bufferOf(bytes)))])
}

/** Reads a PLY file, binary or text: one part. @throws ModelError */
export async function readPly(file: string, bytes: Uint8Array): Promise<readonly Part[]> {
  const { PLYLoader } = await import('three/examples/jsm/loaders/PLYLoader.js')
  return attempt(file, () => [geometryPart(nameOf(file), new PLYLoader().parse(bufferOf(bytes)))])
}

/** Reads an OBJ file: a part for each of its objects and groups. @throws ModelError */
export async function readObj(file: string, bytes: Uint8Array): Promise<readonly Part[]> {
  const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js')
  return attempt(file, () => {
    const group = new OBJLoader().parse(new TextDecoder().decode(bytes))
    return group.children.flatMap((child: Object3D) =>
      'isMesh' in child ? [geometryPart(child.name, (child as unknown as { geometry: BufferGeometry }).geometry)] : [],
    )
  })
}

const nameOf = (file: string): string => file.replace(/^.*[\\/]/, '').replace(/\.[^.]+$/, '')

function attempt(file: string, read: () => readonly Part[]): readonly Part[] {
  try {
    return read()
  } catch (error) {
    if (error instanceof ModelError) throw error
    throw new ModelError(`${file} is damaged or breaks off: ${(error as Error).message.split('\n')[0]}`)
  }
}
