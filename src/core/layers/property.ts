import type { MovingProperty, MovingValue } from '../motion'
import {
  type Change,
  type ChangesProperty,
  type ChoiceProperty,
  type ColourProperty,
  type CurveProperty,
  type Described,
  type Mixing,
  type NumberProperty,
  type NumbersProperty,
  type PathProperty,
  type PropertyValue,
  propertyType,
  type ReferenceProperty,
  type Stop,
  type StopsProperty,
  type StrokesProperty,
  type TextProperty,
  type Values,
} from './types'
import { UNITS, type Unit } from './units'

export type Property =
  | NumberProperty
  | ColourProperty
  | ChoiceProperty
  | NumbersProperty
  | TextProperty
  | PathProperty
  | ReferenceProperty
  | ChangesProperty
  | StopsProperty
  | CurveProperty
  | StrokesProperty
export type PropertyTable = Readonly<Record<string, Property>>

type ValueOf<P extends Property> = P extends { type: 'number' }
  ? number
  : P extends { type: 'colour' }
    ? string | null
    : P extends { type: 'choice'; options: readonly (infer Option)[] }
      ? Option
      : P extends { type: 'text' | 'path' | 'reference' }
        ? string
        : P extends { type: 'changes' }
          ? readonly Change[]
          : P extends { type: 'stops' }
            ? readonly Stop[]
            : readonly number[]

/** The values that a table of properties describes. */
export type ValuesOf<T extends PropertyTable> = { readonly [K in keyof T]: ValueOf<T[K]> }

export const defaultValues = <T extends PropertyTable>(table: T): ValuesOf<T> =>
  Object.fromEntries(Object.entries(table).map(([name, property]) => [name, property.default])) as ValuesOf<T>

/** m of a property for a layer's values, undefined where only equal values look the same. */
export const equivalenceOf = ({ equivalence }: Described, values: Values): number | undefined =>
  typeof equivalence === 'function' ? equivalence(values) : equivalence

/** How values of a property mix. @throws RangeError for one whose values do not */
export function mixingOf(property: Described): Mixing {
  const { mixing } = propertyType(property)
  if (!mixing) throw new RangeError(`${property.label} does not move`)
  return mixing
}

/** A property as the motion code sees it: how its values mix, how far apart they are, which look the same. */
export function movingProperty(property: Described, values: Values): MovingProperty<MovingValue> {
  const { mix, distance, threshold } = mixingOf(property)
  return { mix, distance, equivalence: equivalenceOf(property, values), threshold: threshold(property) }
}

/**
 * A property as it is judged: its values are kept in their range as they are when they are drawn. Where some beyond the range look like some
 * within it (hues), the way they go is judged as it is keyed.
 */
export function judgedProperty(property: Described, values: Values): MovingProperty<MovingValue> {
  const moving = movingProperty(property, values)
  if (typeof property.equivalence === 'number') return moving
  const kept = (value: MovingValue) => clampToRange(property as Property, value as PropertyValue) as MovingValue
  return { ...moving, distance: (a, b) => moving.distance(kept(a), kept(b)) }
}

/** A distance between two values of a property in words: `10°`, `12.5 px`, per cent of a share. */
export const distanceText = (property: Described, distance: number): string =>
  mixingOf(property).distanceText(property, distance)

/** The unit and step in which amounts of a property are typed; none and 1 where it says nothing of them. */
export function amountsOf(property: Described): { readonly unit: Unit; readonly step: number } {
  const { unit = '', step = 1 } = property as Partial<NumberProperty>
  return { unit, step }
}

/** The unit of a property as it stands behind a number in a sentence; empty where it has none. */
export const unitText = (property: Described): string => UNITS[amountsOf(property).unit].text

/** A value kept inside the range that the property declares. */
export const clampToRange = (property: Described, value: PropertyValue): PropertyValue =>
  propertyType(property).clamp?.(property, value) ?? value

/**
 * Values with a share of some changes applied: a number is moved by the share of its difference, a colour that share of
 * the way.
 */
export function changedBy(table: PropertyTable, values: Values, changes: readonly Change[], share: number): Values {
  if (share === 0) return values
  const changed: Record<string, PropertyValue> = { ...values }
  for (const { property: name, to } of changes) {
    const property = table[name]
    const value = values[name]
    const mixing = property && propertyType(property).mixing
    if (mixing && value !== undefined && mixing.is(value) && mixing.is(to))
      changed[name] = clampToRange(property, mixing.towards(value as MovingValue, to, share))
  }
  return changed
}
