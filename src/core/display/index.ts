export * from './node'
export * from './paint'
export { heldIn, nodeType, picturesIn } from './types/table'
