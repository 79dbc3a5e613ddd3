import { boundNumber, MAX_NUMBER } from '../../bounds'
import { mixNumbers } from '../../motion'
import { coordinate, number, whole } from '../../schemas'
import { amountText, UNITS, type Unit } from '../units'
import type { Described, PropertyType } from './type'

export interface NumberProperty extends Described {
  readonly type: 'number'
  readonly default: number
  readonly unit: Unit
  readonly min?: number
  readonly max?: number
  /** Increment of an arrow key, in the unit. */
  readonly step: number
  readonly whole?: boolean
  /** A low and a high value, of which pictures tell what it does where the kind makes samples. */
  readonly shown?: readonly [low: number, high: number]
  /** Amount that each cycle of a new motion adds; if left out, a new motion goes there and back. */
  readonly newTravel?: number
}

const rangeOf = ({ min = -MAX_NUMBER, max = MAX_NUMBER }: NumberProperty) => ({ min, max })

function swung(property: NumberProperty, value: number): number {
  const { swing } = UNITS[property.unit]
  const over = property.max !== undefined && value + swing > property.max
  return over || (property.unit === 'share' && value > 0.5) ? value - swing : value + swing
}

/** A value beyond its bounds as the one within them that looks the same, where one does: a hue goes round, it does not stop. */
function within({ equivalence: m }: NumberProperty, value: number, min: number, max: number): number {
  if (typeof m !== 'number' || max - min < m) return value
  if (value > max) return value - m * Math.ceil((value - max) / m)
  return value < min ? value + m * Math.ceil((min - value) / m) : value
}

export const numberType: PropertyType<NumberProperty, number> = {
  type: 'number',
  schema: (property) => {
    const { min, max } = rangeOf(property)
    return (property.whole ? whole : number)(min, max)
  },
  mixing: {
    schema: coordinate,
    mix: mixNumbers,
    distance: (a, b) => Number(b) - Number(a),
    threshold: ({ unit }) => UNITS[unit].threshold,
    unit: ({ unit }) => unit,
    distanceText: ({ unit }, distance) => amountText(distance, unit),
    accumulates: true,
    start: (property, value) =>
      property.newTravel
        ? { to: value + property.newTravel, carriesOn: true }
        : { to: swung(property, value), carriesOn: false },
    flash: ({ unit }, value) => (unit === 'share' && value !== 0 ? 0 : value + UNITS[unit].swing),
    tremble: ({ unit }) => UNITS[unit].swing / 10,
    shake: (value, by) => value + by,
    towards: (value, to, share) => value + share * to,
    spread: ({ unit }) => UNITS[unit].spread,
    is: (value) => typeof value === 'number',
  },
  clamp: (property, value) => {
    if (typeof value !== 'number') return value
    const { min, max } = rangeOf(property)
    const clamped = Math.min(max, Math.max(min, within(property, boundNumber(value), min, max)))
    return (property.whole ? Math.round(clamped) : clamped) + 0
  },
  examples: (property) => {
    const { min, max } = rangeOf(property)
    return [property.default, Math.max(min, -100), Math.min(max, 100)]
  },
}
