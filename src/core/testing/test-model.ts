import type { Model } from '../media'

/** A capstan of six bars as a document lists it; its file is not there. */
export const testModel = (): Model => {
  const bars = Array.from({ length: 6 }, (_, i) => ({
    name: `Bar ${i + 1}`,
    node: i + 1,
    within: 0,
    triangles: 12,
    centre: [Math.cos((i * Math.PI) / 3), 1, Math.sin((i * Math.PI) / 3)] as const,
    folds: [2, 2, 2] as const,
  }))
  return {
    kind: 'model',
    id: 'capstan',
    name: 'Capstan',
    triangles: 72,
    parts: [{ name: 'Capstan', node: 0, within: -1, triangles: 72, centre: [0, 1, 0], folds: [1, 6, 1] }, ...bars],
    hull: [-2, 0, 0, 2, 0, 0, 0, 2, 0, 0, 0, 2, 0, 0, -2],
    bounds: [-2, 0, -2, 2, 2, 2],
    centre: [0, 1, 0],
    folds: [1, 6, 1],
    file: { id: 'a'.repeat(64), type: 'model/gltf-binary', bytes: 1000 },
  }
}
