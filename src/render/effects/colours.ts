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
import {
  type BALANCE,
  type COLOUR_TABLE,
  type CURVES,
  curveOf,
  type GRADIENT_MAP,
  type HUE_RANGE,
  type LEVELS,
  rampOf,
  type THRESHOLD,
} from '@/core/layers'
import { rampBytes } from '@/core/texture'
import { type AppliedEffect, applied } from './effect'

/** Effects that change each colour by itself. */
export const COLOUR_EFFECTS: readonly AppliedEffect[] = [
  applied<typeof LEVELS>('levels', (picture, values) => levelsTable(picture, values)),
  applied<typeof CURVES>('curves', (picture, { all, red, green, blue }) => {
    const whole = curveOf(all)
    const parts = [red, green, blue].map(curveOf)
    if (isStraight(whole) && parts.every(isStraight)) return picture
    const over = channelOfCurve(whole)
    const [r, g, b] = parts.map((part) => {
      const own = channelOfCurve(part)
      return over.map((value) => own[value])
    }) as [Uint8ClampedArray, Uint8ClampedArray, Uint8ClampedArray]
    return throughChannels(picture, r, g, b)
  }),
  applied<typeof BALANCE>('temperature', (picture, { temperature, tint }) => balanced(picture, temperature, tint)),
  applied<typeof HUE_RANGE>('colourRange', (picture, values) => hueRange(picture, values)),
  applied<typeof GRADIENT_MAP>('gradientMap', (picture, values) => gradientMapped(picture, rampBytes(rampOf(values)))),
  applied<typeof THRESHOLD>('threshold', (picture, { level, softness, dark, light }) =>
    thresholded(picture, level, softness, [bytesOf(dark ?? 'transparent'), bytesOf(light ?? 'transparent')]),
  ),
  applied<typeof COLOUR_TABLE>('colourTable', (picture, _, { table }) => {
    const colours = table && tableOfPicture(table)
    return colours ? throughTable(picture, colours) : picture
  }),
]
