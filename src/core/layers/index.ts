export { beltLinks } from './belt'
export { linksOf } from './copies'
export type { EffectName, EffectValues } from './effect'
export { filtersOf } from './effects'
export { rampOf } from './field'
export {
  type IconName,
  type Inside,
  type LayerKind,
  type LoopPicture,
  type Preset,
  type Repeating,
  wrapped,
} from './kind'
export { LAYER_KINDS } from './kinds'
export {
  CAMERA,
  cameraOf,
  centreOfTurn,
  foldOfTurn,
  GUIDES,
  guideOf,
  PASSES,
  PIVOTS,
  ROUND_FOLD,
  sizeOfModel,
  turnOf,
} from './model'
export { FILL } from './paint'
export { PLACEMENT, type Placement, placementMatrix } from './placement'
export * from './property'
export { layerKind, propertiesWith } from './registry'
export * from './types'
export { UNITS, type Unit } from './units'
