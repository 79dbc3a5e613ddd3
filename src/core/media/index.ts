export { MEDIUM_KINDS } from './all'
export * from './asset'
export {
  type Clip,
  clipSeconds,
  clockOfClip,
  frameOfClip,
  MAX_CLIPS,
  startOfFrame,
  unroundedDelays,
} from './clip'
export { MAX_TABLES, type TableOfColours } from './colour-table'
export * from './files'
export type { Medium, MediumKind } from './medium'
export { MAX_MODELS, type Model } from './model'
export * from './picture-file'
export { MAX_PICTURES, type StillPicture } from './still'
export * from './table'
export * from './verdicts'
