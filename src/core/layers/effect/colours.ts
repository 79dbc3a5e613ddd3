import { STRAIGHT } from '../../effects'
import type { PropertyTable } from '../property'
import { curveNumbers } from '../types'
import { amount, defineEffect, effectColour } from './effect'

const share = (label: string, value: number) => amount(label, 'share', { default: value, min: 0, max: 1, step: 0.01 })

/** Effects that change each colour by itself. */
const LEVELS = {
  black: share('black', 0),
  white: share('white', 1),
  gamma: amount('gamma', '', { default: 1, min: 0.1, max: 10 }),
  toBlack: share('black becomes', 0),
  toWhite: share('white becomes', 1),
} as const satisfies PropertyTable

export const levels = defineEffect({
  kind: 'levels',
  label: 'Levels',
  icon: 'levels',
  properties: LEVELS,
})

const curve = (label: string) =>
  ({ type: 'curve', label, section: 'effect', default: curveNumbers(STRAIGHT), moves: true }) as const

const CURVES = {
  all: curve('all'),
  red: curve('red'),
  green: curve('green'),
  blue: curve('blue'),
} as const satisfies PropertyTable

export const curves = defineEffect({
  kind: 'curves',
  label: 'Curves',
  icon: 'curve',
  properties: CURVES,
})

const side = (label: string) => amount(label, 'share', { default: 0, min: -1, max: 1 })

const BALANCE = {
  temperature: { ...side('temperature'), default: 0.3 },
  tint: side('tint'),
} as const satisfies PropertyTable

export const temperature = defineEffect({
  kind: 'temperature',
  label: 'Temperature and tint',
  icon: 'thermometer',
  properties: BALANCE,
})

const degrees = (label: string, value: number, min: number, max: number) =>
  amount(label, '°', { default: value, min, max, step: 5 })

const HUE_RANGE = {
  hue: { ...degrees('hue', 0, -3600, 3600), equivalence: 360 },
  width: degrees('width', 360, 0, 360),
  softness: degrees('softness', 30, 0, 180),
  turn: { ...degrees('turned by', 0, -3600, 3600), equivalence: 360, newTravel: 360 },
  saturation: amount('saturation', '×', { default: 1, min: 0, max: 8 }),
  lightness: side('lightness'),
} as const satisfies PropertyTable

export const colourRange = defineEffect({
  kind: 'colourRange',
  label: 'Hue range',
  icon: 'palette',
  properties: HUE_RANGE,
})

const GRADIENT_MAP = {
  colour: effectColour('darkest', '#071a26'),
  stops: { type: 'stops', label: 'between', section: 'effect', default: [], most: 6 },
  colourTo: effectColour('lightest', '#f4e7c5'),
} as const satisfies PropertyTable

export const gradientMap = defineEffect({
  kind: 'gradientMap',
  label: 'Gradient map',
  icon: 'blend',
  properties: GRADIENT_MAP,
})

const THRESHOLD = {
  level: share('level', 0.5),
  softness: share('softness', 0.05),
  dark: effectColour('dark', '#000000'),
  light: effectColour('light', '#ffffff'),
} as const satisfies PropertyTable

export const threshold = defineEffect({
  kind: 'threshold',
  label: 'Threshold',
  icon: 'contrast',
  properties: THRESHOLD,
})

const COLOUR_TABLE = {
  table: { type: 'reference', to: 'table', label: 'table', section: 'effect', default: '' },
} as const satisfies PropertyTable

export const colourTable = defineEffect({
  kind: 'colourTable',
  label: 'Table of colours',
  icon: 'table',
  properties: COLOUR_TABLE,
})
