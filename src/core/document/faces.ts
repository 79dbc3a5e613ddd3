import { layerKind } from '../layers'
import { FACES, type FaceName, facesAreHere, loadFaces } from '../text'
import type { Layer, Loop } from './document'

const known = new WeakMap<readonly Layer[], ReadonlySet<FaceName>>()

/** The faces that the text of layers is set in. */
function facesIn(layers: readonly Layer[]): ReadonlySet<FaceName> {
  const found = known.get(layers)
  if (found) return found
  const faces = new Set<FaceName>()
  for (const layer of layers) {
    for (const face of layerKind(layer.kind).faces?.(layer.values) ?? []) faces.add(face)
    for (const face of facesIn(layer.layers ?? [])) faces.add(face)
  }
  known.set(layers, faces)
  return faces
}

/** The faces that the text of a loop, and of those placed in it, is set in. */
export function facesOf({ layers, loops }: Pick<Loop, 'layers' | 'loops'>): FaceName[] {
  const sets = [layers, ...loops.map((inner) => inner.layers)].map(facesIn)
  return FACES.filter((face) => sets.some((set) => set.has(face)))
}

/** Whether all faces that a loop needs are here; else it cannot be evaluated yet. */
export const hasItsFaces = (loop: Pick<Loop, 'layers' | 'loops'>): boolean => facesAreHere(facesOf(loop))

/** Fetches what a loop needs before it can be evaluated: the outlines of its faces. Returns the loop. */
export async function withFaces<T extends Pick<Loop, 'layers' | 'loops'>>(loop: T): Promise<T> {
  await loadFaces(facesOf(loop))
  return loop
}
