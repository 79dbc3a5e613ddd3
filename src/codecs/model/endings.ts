/** Endings of the files that models are read from, those that say most of a model first. */
export const MODEL_ENDINGS: readonly string[] = ['glb', 'gltf', 'obj', 'ply', 'stl']
