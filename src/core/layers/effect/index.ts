import type { LayerKind } from '../kind'
import { colourRange, colourTable, curves, gradientMap, levels, temperature, threshold } from './colours'
import { displacement, glow, grade, grain, sharpness, softness, vignette } from './places'

/** Every effect, in the order in which they are offered. A new one is an object and a line here. */
export const EFFECT_KINDS: readonly LayerKind[] = [
  levels,
  curves,
  temperature,
  colourRange,
  gradientMap,
  colourTable,
  threshold,
  softness,
  glow,
  sharpness,
  grain,
  vignette,
  displacement,
  grade,
]

export type { BALANCE, COLOUR_TABLE, CURVES, GRADIENT_MAP, HUE_RANGE, LEVELS, THRESHOLD } from './colours'
export type { BLUR, DISPLACEMENT, GLOW, GRADE, GRAIN, SHARPEN, VIGNETTE } from './places'
