import { bytesOf } from '@/core/colour'
import {
  balanced,
  channelOfCurve,
  gradientMapped,
  hueRange,
  isStraight,
  levelsTable,
  tableOfPicture,
  thresholded,
  throughChannels,
  throughTable,
} from '@/core/effects'
import { curveOf, rampOf } from '@/core/layers'
import { rampBytes } from '@/core/texture'
import type { EffectDrawings } from './effect'

/** Effects that change each colour by itself. */
export const COLOUR_EFFECTS = {
  levels: (picture, values) => levelsTable(picture, values),
  curves: (picture, { all, red, green, blue }) => {
    const whole = curveOf(all)
    const parts = [red, green, blue].map(curveOf)
    if (isStraight(whole) && parts.every(isStraight)) return picture
    const over = channelOfCurve(whole)
    const [r, g, b] = parts.map((part) => {
      const own = channelOfCurve(part)
      return over.map((value) => own[value])
    }) as [Uint8ClampedArray, Uint8ClampedArray, Uint8ClampedArray]
    return throughChannels(picture, r, g, b)
  },
  temperature: (picture, { temperature, tint }) => balanced(picture, temperature, tint),
  colourRange: (picture, values) => hueRange(picture, values),
  gradientMap: (picture, values) => gradientMapped(picture, rampBytes(rampOf(values))),
  threshold: (picture, { level, softness, dark, light }) =>
    thresholded(picture, level, softness, [bytesOf(dark ?? 'transparent'), bytesOf(light ?? 'transparent')]),
  colourTable: (picture, _, { table }) => {
    const colours = table && tableOfPicture(table)
    return colours ? throughTable(picture, colours) : picture
  },
} satisfies Partial<EffectDrawings>
