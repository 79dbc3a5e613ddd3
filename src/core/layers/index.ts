export type { LayerKind } from './kind'
export { PLACEMENT, type Placement, placementMatrix } from './placement'
export * from './property'
export { LAYER_KINDS, layerKind } from './registry'
