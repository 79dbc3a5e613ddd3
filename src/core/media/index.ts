export { MEDIUM_KINDS, type MediumName } from './all'
export * from './asset'
export {
  type Clip,
  clipSeconds,
  clockOfClip,
  frameOfClip,
  startOfFrame,
  unroundedDelays,
} from './clip'
export type { TableOfColours } from './colour-table'
export * from './files'
export type { Medium, MediumKind } from './medium'
export type { Model } from './model'
export * from './picture-file'
export { MAX_PICTURES, type StillPicture } from './still'
export * from './table'
export * from './verdicts'
