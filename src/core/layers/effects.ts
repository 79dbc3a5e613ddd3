import type { Filter } from '../display'
import type { PropertyTable, ValuesOf } from './property'
import type { NumberProperty, Values } from './types'

const length = (label: string, extra: Partial<NumberProperty> = {}) =>
  ({ type: 'number', label, section: 'effects', unit: 'px', default: 0, step: 1, moves: true, ...extra }) as const
const amount = (label: string) =>
  ({
    type: 'number',
    label,
    section: 'effects',
    unit: 'share',
    default: 1,
    min: 0,
    max: 20,
    step: 0.05,
    moves: true,
  }) as const
const colour = (label: string, when: (values: Values) => boolean) =>
  ({ type: 'colour', label, section: 'effects', default: null, moves: true, when }) as const

const always = () => true
const hasShadow = ({ shadowColour }: Values) => shadowColour !== null
const hasGlow = ({ glowColour }: Values) => glowColour !== null

/** Filters that every layer has; names and units are those of the Filter Effects standard (glow is a shadow straight behind). */
export const EFFECTS = {
  blur: length('blur', { min: 0 }),
  glowColour: colour('glow', always),
  glowBlur: length('glow blur', { min: 0, default: 12, when: hasGlow }),
  shadowColour: colour('drop shadow', always),
  shadowX: length('shadow x', { default: 4, when: hasShadow }),
  shadowY: length('shadow y', { default: 4, when: hasShadow }),
  shadowBlur: length('shadow blur', { min: 0, default: 6, when: hasShadow }),
  brightness: amount('brightness'),
  contrast: amount('contrast'),
  saturate: amount('saturate'),
  hueRotate: {
    type: 'number',
    label: 'hue rotate',
    section: 'effects',
    unit: '°',
    default: 0,
    step: 5,
    moves: true,
    equivalence: 360,
    newTravel: 360,
  },
} as const satisfies PropertyTable

/** The filters that a layer's values ask for, in the order in which they act; none in the most usual case. */
export function filtersOf(values: Values): readonly Filter[] {
  const v = values as unknown as ValuesOf<typeof EFFECTS>
  const filters: Filter[] = []
  // Kinds need not have effects.
  if (values.blur === undefined) return filters
  if (v.brightness !== 1) filters.push({ name: 'brightness', amount: v.brightness })
  if (v.contrast !== 1) filters.push({ name: 'contrast', amount: v.contrast })
  if (v.saturate !== 1) filters.push({ name: 'saturate', amount: v.saturate })
  if (v.hueRotate % 360 !== 0) filters.push({ name: 'hue-rotate', degrees: v.hueRotate % 360 })
  if (v.blur > 0) filters.push({ name: 'blur', radius: v.blur })
  if (v.glowColour) filters.push({ name: 'drop-shadow', x: 0, y: 0, blur: v.glowBlur, colour: v.glowColour })
  if (v.shadowColour)
    filters.push({ name: 'drop-shadow', x: v.shadowX, y: v.shadowY, blur: v.shadowBlur, colour: v.shadowColour })
  return filters
}

/** Whether the filters look the same from every side: a shadow that falls to one side turns with its layer. */
export const filtersAllRound = ({ shadowColour, shadowX, shadowY }: Values): boolean =>
  shadowColour === null || (shadowX === 0 && shadowY === 0)
