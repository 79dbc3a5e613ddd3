export * from './node'
export * from './paint'
export { heldIn, modelsIn, nodeType, picturesIn } from './types/table'
