export * from './arrange'
export * from './closing'
export * from './colours'
export * from './display-list'
export * from './edit'
export * from './evaluate'
export * from './file'
export * from './keys'
export * from './keys-many'
export * from './motion-path'
export * from './nest'
export * from './recording'
export {
  FORMAT,
  type FrameBlur,
  type InnerLoop,
  LARGEST_PICTURE,
  type Layer,
  LONGEST_NAME,
  LOOP_KINDS,
  type Loop,
  loopJsonSchema,
  loopSchema,
  MAX_DEPTH,
  MAX_SIZE,
  type NamedColour,
  NO_BLUR,
  PICTURE_TYPES,
  placedIn,
  reaches,
  type StillPicture,
  type VariantChange,
  type VariantOf,
  VERSION,
} from './schema'
export * from './snap'
export * from './spokes'
export * from './symmetry'
export * from './timing'
export * from './tree'
export * from './vary'
