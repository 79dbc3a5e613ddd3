export {
  type Axis,
  type EdgeReport,
  type FrameEdge,
  type FrameEdges,
  judgeTile,
  judgeTiles,
  MIN_TILE_PX as SMALLEST_TILE,
  type TileReport,
} from './edge'
export { HEALS, type Heal, type HealPlan, healed, healedBy, healPlan, usualBand } from './heal'
export { movedByHalf } from './heal-fill'
export {
  CELL_SHAPES,
  type LatticeFace as Face,
  type LatticeSpec,
  latticeCost,
  latticeCounts,
  latticeFaces,
  VIEWS,
} from './lattice'
export { LOOK_NAMES, LOOKS, type TextureLook as Look, type TextureShape as Shape } from './looks'
export { addNoise, emptyField, type Field, type Lattice, noiseAt } from './noise'
export { PARTICLE, type ParticleSpec, particlesAt } from './particles'
export type { Ramp } from './ramp'
export { rampBytes, type TextureSpec, textureField, texturePicture } from './texture'
