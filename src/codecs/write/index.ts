import { apng } from './apng'
import { gif } from './gif'
import { pngSequence, spriteSheet } from './pictures'
import { lottie, svg } from './vector'
import { webp } from './webp'

export { avifOf } from './avif'
export * from './job'
export { lottieOf } from './lottie'
export { MAX_SIDE } from './pictures'
export * from './pieces'
export { svgOf } from './svg'

/** The encoders that need no browser. */
export const WRITERS = {
  gif,
  apng,
  webp,
  svg,
  lottie,
  'png-sequence': pngSequence,
  'sprite-sheet': spriteSheet,
} as const
