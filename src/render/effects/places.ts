import { bytesOf } from '@/core/colour'
import {
  type Bend,
  blurred,
  byMap,
  cloudy,
  displaced,
  type Edges,
  glowing,
  grained,
  heatHaze,
  type Shift,
  sharpened,
  swirl,
  vignetted,
  waves,
} from '@/core/effects'
import { wrapped } from '@/core/layers'
import { scaleOf } from '@/core/path'
import { centreOf, type EffectDrawings } from './effect'

/** By what a displacement moves pixels, beside what it holds. */
const BENDS: Readonly<Record<string, (width: number, height: number, bend: Bend) => Shift>> = {
  waves,
  swirl: (_, __, bend) => swirl(bend),
  'heat haze': heatHaze,
  glass: cloudy,
}

/** Effects that look at more than one place of the picture, or at where it is. */
export const PLACE_EFFECTS = {
  blurred: (picture, { radius, edges }, { matrix }) => blurred(picture, radius * scaleOf(matrix), edges as Edges),
  glow: (picture, { amount, radius, from, edges }, { matrix }) =>
    glowing(picture, amount, radius * scaleOf(matrix), from, edges as Edges),
  sharpen: (picture, { amount, radius, edges }, { matrix }) =>
    sharpened(picture, amount, radius * scaleOf(matrix), edges as Edges),
  grain: (picture, { amount, size, colours, time, changes, seed }, { matrix }) =>
    grained(picture, {
      amount,
      size: size * scaleOf(matrix),
      coloured: colours === 'coloured',
      seed,
      // A hair beyond the beginning of a step, so that moments that were rounded lie in it.
      step: Math.floor(wrapped(time) * changes + 1e-6) % changes,
    }),
  vignette: (picture, { amount, from, softness, colour }, { matrix }) =>
    vignetted(picture, {
      amount,
      from,
      softness,
      centre: centreOf(matrix),
      colour: bytesOf(colour ?? 'transparent'),
    }),
  displacement: (picture, values, { matrix, map }) => {
    const scale = scaleOf(matrix)
    const bend: Bend = {
      amount: values.amount * scale,
      size: values.size * scale,
      angle: (values.angle * Math.PI) / 180,
      time: wrapped(values.time),
      seed: values.seed,
      centre: centreOf(matrix),
    }
    const { width, height } = picture
    const shift = BENDS[values.by]?.(width, height, bend) ?? (map && byMap(map, bend))
    return shift ? displaced(picture, shift, values.edges as Edges) : picture
  },
  // Effects among the children have acted already.
  grade: (picture) => picture,
} satisfies Partial<EffectDrawings>
