export { LOOK_NAMES, LOOKS, type Look, type Shape } from './looks'
export { type Field, type Lattice, noiseAt } from './noise'
export { PARTICLE, type ParticleSpec, particlesAt } from './particles'
export { type Ramp, type TextureSpec, textureField, texturePicture } from './texture'
