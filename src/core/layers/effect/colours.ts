import { bytesOf } from '../../colour'
import {
  balanced,
  channelOfCurve,
  gradientMapped,
  hueRange,
  isStraight,
  levels as levelled,
  STRAIGHT,
  tableOfPicture,
  throughChannels,
  throughTable,
  threshold as twoColours,
} from '../../effects'
import { rampBytes } from '../../texture'
import { rampOf } from '../field'
import { curveOf, curveValue } from '../types'
import { amount, defineEffect, effectColour } from './effect'

const share = (label: string, value: number) => amount(label, 'share', { default: value, min: 0, max: 1, step: 0.01 })

/** Effects that change each colour by itself. */
export const levels = defineEffect({
  kind: 'levels',
  label: 'Levels',
  icon: 'levels',
  properties: {
    black: share('black', 0),
    white: share('white', 1),
    gamma: amount('gamma', '', { default: 1, min: 0.1, max: 10 }),
    toBlack: share('black becomes', 0),
    toWhite: share('white becomes', 1),
  },
  apply: (picture, values) => levelled(picture, values),
})

const curve = (label: string) =>
  ({ type: 'curve', label, section: 'effect', default: curveValue(STRAIGHT), moves: true }) as const

export const curves = defineEffect({
  kind: 'curves',
  label: 'Curves',
  icon: 'curve',
  properties: { all: curve('all'), red: curve('red'), green: curve('green'), blue: curve('blue') },
  apply: (picture, { all, red, green, blue }) => {
    const whole = curveOf(all)
    const parts = [red, green, blue].map(curveOf)
    if (isStraight(whole) && parts.every(isStraight)) return picture
    const over = channelOfCurve(whole)
    const [r, g, b] = parts.map((part) => {
      const own = channelOfCurve(part)
      return over.map((value) => own[value] as number)
    }) as [Uint8ClampedArray, Uint8ClampedArray, Uint8ClampedArray]
    return throughChannels(picture, r, g, b)
  },
})

const side = (label: string) => amount(label, 'share', { default: 0, min: -1, max: 1 })

export const temperature = defineEffect({
  kind: 'temperature',
  label: 'Temperature and tint',
  icon: 'thermometer',
  properties: { temperature: { ...side('temperature'), default: 0.3 }, tint: side('tint') },
  apply: (picture, values) => balanced(picture, values.temperature, values.tint),
})

const degrees = (label: string, value: number, min: number, max: number) =>
  amount(label, '°', { default: value, min, max, step: 5 })

export const colourRange = defineEffect({
  kind: 'colourRange',
  label: 'Hue range',
  icon: 'palette',
  properties: {
    hue: { ...degrees('hue', 0, -3600, 3600), equivalence: 360 },
    width: degrees('width', 360, 0, 360),
    softness: degrees('softness', 30, 0, 180),
    turn: { ...degrees('turned by', 0, -3600, 3600), equivalence: 360, newTravel: 360 },
    saturation: amount('saturation', '×', { default: 1, min: 0, max: 8 }),
    lightness: side('lightness'),
  },
  apply: (picture, values) => hueRange(picture, values),
})

export const gradientMap = defineEffect({
  kind: 'gradientMap',
  label: 'Gradient map',
  icon: 'blend',
  properties: {
    colour: effectColour('darkest', '#071a26'),
    stops: { type: 'stops', label: 'between', section: 'effect', default: [], most: 6 },
    colourTo: effectColour('lightest', '#f4e7c5'),
  },
  apply: (picture, values) => gradientMapped(picture, rampBytes(rampOf(values))),
})

export const threshold = defineEffect({
  kind: 'threshold',
  label: 'Threshold',
  icon: 'contrast',
  properties: {
    level: share('level', 0.5),
    softness: share('softness', 0.05),
    dark: effectColour('dark', '#000000'),
    light: effectColour('light', '#ffffff'),
  },
  apply: (picture, { level, softness, dark, light }) =>
    twoColours(picture, level, softness, [bytesOf(dark ?? 'transparent'), bytesOf(light ?? 'transparent')]),
})

export const colourTable = defineEffect({
  kind: 'colourTable',
  label: 'Table of colours',
  icon: 'table',
  properties: { table: { type: 'reference', to: 'table', label: 'table', section: 'effect', default: '' } },
  apply: (picture, _, { table }) => {
    const colours = table && tableOfPicture(table)
    return colours ? throughTable(picture, colours) : picture
  },
})
