import type { ValuesOf } from '../property'
import { colourRange, colourTable, curves, gradientMap, levels, temperature, threshold } from './colours'
import type { EffectKind } from './effect'
import { displacement, glow, grade, grain, sharpness, softness, vignette } from './places'

/** Every effect, in the order in which they are offered. A new one is an object and a line here. */
export const EFFECT_KINDS = [
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
] as const

type Effect = (typeof EFFECT_KINDS)[number]
/** Name of an effect. */
export type EffectName = Effect['kind']
/** Values of an effect, by its own properties. */
export type EffectValues<Name extends EffectName> =
  Extract<Effect, { kind: Name }> extends EffectKind<Name, infer Properties> ? ValuesOf<Properties> : never
