export * from './closing'
export * from './display-list'
export * from './edit'
export * from './evaluate'
export * from './file'
export * from './keys'
export {
  FORMAT,
  type Layer,
  LONGEST_NAME,
  LOOP_KINDS,
  type Loop,
  loopJsonSchema,
  loopSchema,
  MAX_DEPTH,
  MAX_SIZE,
  VERSION,
} from './schema'
export * from './snap'
export * from './tree'
