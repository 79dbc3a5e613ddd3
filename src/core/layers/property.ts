import { boundNumber, LARGEST_NUMBER } from '../bounds'
import { colourDistance, mixColours } from '../colour'
import { type MovingProperty, type MovingValue, mixNumbers } from '../motion'

/** Units in which property values are stored. `share` is a part of a whole, 1 being all of it. */
export type Unit = 'px' | '°' | 'share' | '×' | 'links' | 'places' | 'cycles' | ''

/** The largest gap at the seam that no eye sees, by unit. */
export const THRESHOLD: Record<Unit, number> = {
  px: 0.05,
  '°': 0.05,
  share: 1 / 512,
  '×': 1 / 512,
  links: 1 / 512,
  places: 1 / 512,
  cycles: 1e-4,
  '': 1e-6,
}
/** Units as they stand behind a number in a sentence. */
export const UNIT_TEXT: Record<Unit, string> = {
  px: ' px',
  '°': '°',
  share: '',
  '×': '×',
  links: ' links',
  places: ' places',
  cycles: ' cycles',
  '': '',
}
/** The largest gap at the seam that no eye sees for colours: a distance in OKLab, about one step of an 8-bit channel. */
export const COLOUR_THRESHOLD = 1 / 255

/** How the last of several copies differs from the first: by so much, or, for a colour, by being that one. */
export interface Change {
  readonly property: string
  readonly to: MovingValue
}

/** A colour on the way from a gradient's first to its last. */
export interface Stop {
  /** Share of the way. */
  readonly at: number
  readonly colour: string
}

export type PropertyValue = number | string | boolean | null | readonly number[] | readonly Change[] | readonly Stop[]
export type Values = Readonly<Record<string, PropertyValue>>

interface Described {
  readonly label: string
  /** The heading under which the property is shown. */
  readonly section: 'shape' | 'copies' | 'place' | 'fill' | 'stroke' | 'span' | 'mask' | 'effects'
  /** Whether the property can be given a motion. */
  readonly moves?: boolean
  /** Whether it has a say, with the other values as they are; it always has where this is left out. */
  readonly when?: (values: Values) => boolean
}
export interface NumberProperty extends Described {
  readonly type: 'number'
  readonly default: number
  readonly unit: Unit
  readonly min?: number
  readonly max?: number
  /** What an arrow key adds, in the unit. */
  readonly step: number
  readonly whole?: boolean
  /** m: values that differ by a multiple of it look the same. */
  readonly equivalence?: number | ((values: Values) => number | undefined)
  /** Properties of the same name here come home together or not at all: they must carry the same multiple of m. */
  readonly jointly?: string
  /** What one cycle adds to a motion that is new; without it a new motion goes there and back. */
  readonly newTravel?: number
}
export interface ColourProperty extends Described {
  readonly type: 'colour'
  /** null: none is painted. */
  readonly default: string | null
}
export interface ChoiceProperty extends Described {
  readonly type: 'choice'
  readonly options: readonly string[]
  readonly default: string
}
export interface NumbersProperty extends Described {
  readonly type: 'numbers'
  readonly default: readonly number[]
  readonly unit: Unit
  readonly most: number
}
/** The longest length in a list of them, such as dashes. */
export const LONGEST_DASH = 1e6

/** Words to be set, several lines allowed. */
export interface TextProperty extends Described {
  readonly type: 'text'
  readonly default: string
  readonly most: number
}
/** The `d` of an SVG path, in px of the layer. */
export interface PathProperty extends Described {
  readonly type: 'path'
  readonly default: string
}
/** The id of a loop, picture or clip that the document holds; empty for none. */
export interface ReferenceProperty extends Described {
  readonly type: 'reference'
  readonly to: 'loop' | 'picture' | 'clip'
  readonly default: string
}
/** What changes from the first of several copies to the last. */
export interface ChangesProperty extends Described {
  readonly type: 'changes'
  readonly default: readonly Change[]
}
/** Colours between the ends of a gradient. */
export interface StopsProperty extends Described {
  readonly type: 'stops'
  readonly default: readonly Stop[]
  readonly most: number
}
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
export const equivalenceOf = (property: Property, values: Values): number | undefined =>
  property.type !== 'number' || property.equivalence === undefined
    ? undefined
    : typeof property.equivalence === 'number'
      ? property.equivalence
      : property.equivalence(values)

/** A property as the motion code sees it: how its values mix, how far apart they are, which look the same. */
export function movingProperty(property: Property, values: Values): MovingProperty<MovingValue> {
  if (property.type === 'colour')
    return {
      mix: mixColours as MovingProperty<MovingValue>['mix'],
      distance: (a, b) => colourDistance(String(a), String(b)),
      threshold: COLOUR_THRESHOLD,
    }
  return {
    mix: mixNumbers as unknown as MovingProperty<MovingValue>['mix'],
    distance: (a, b) => Number(b) - Number(a),
    equivalence: equivalenceOf(property, values),
    threshold: THRESHOLD[property.type === 'number' ? property.unit : ''],
  }
}

/** A value kept inside the range that the property declares. */
export function clampToRange(property: Property, value: PropertyValue): PropertyValue {
  if (property.type !== 'number' || typeof value !== 'number') return value
  const { min = -LARGEST_NUMBER, max = LARGEST_NUMBER, whole } = property
  const clamped = Math.min(max, Math.max(min, boundNumber(value)))
  return (whole ? Math.round(clamped) : clamped) + 0
}
