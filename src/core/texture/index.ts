export {
  type Axis,
  type EdgeReport,
  type FrameEdge,
  type FrameEdges,
  judgeTile,
  judgeTiles,
  MIN_TILE_PX,
  type TileReport,
} from './edge'
export { HEALS, type Heal, type HealPlan, healed, healedBy, healPlan, usualBand } from './heal'
export { movedByHalf } from './heal-fill'
export {
  CELL_SHAPES,
  type LatticeSpec,
  latticeCost,
  latticeCounts,
  latticeFaces,
  VIEWS,
} from './lattice'
export { LOOK_NAMES, type TextureShape } from './looks'
export { addNoise, emptyField, type Field, noiseAt } from './noise'
export { PARTICLE, type ParticleSpec, particlesAt } from './particles'
export type { Ramp } from './ramp'
export { rampBytes, type TextureSpec, textureField, texturePicture } from './texture'
