import type * as z from 'zod/mini'
import type { BrushStroke } from '../../effects'
import type { MediumName } from '../../media'
import type { MovingValue } from '../../motion'
import type { Point } from '../../path'

/** Difference of the last of several copies from the first: an offset, or for a colour the colour itself. */
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

export type PropertyValue =
  | number
  | string
  | boolean
  | null
  | readonly number[]
  | readonly Change[]
  | readonly Stop[]
  | readonly BrushStroke[]
export type Values = Readonly<Record<string, PropertyValue>>

/** Fields of properties of all types. */
export interface Described {
  readonly type: string
  readonly label: string
  readonly default: PropertyValue
  /** The heading under which the property is shown. */
  readonly section: string
  /** True for a property that is rarely used: it is folded away until somebody changes it. */
  readonly seldom?: boolean
  /** Whether the property can be given a motion. */
  readonly moves?: boolean
  /** True if the property has an effect with the other values as they are; it always has one if this is left out. */
  readonly when?: (values: Values) => boolean
  /** m: values that differ by a multiple of it look the same. */
  readonly equivalence?: number | ((values: Values) => number | undefined)
  /** Properties of the same name here come home together or not at all: they must carry the same multiple of m. */
  readonly jointly?: string
}

/** A point of a value, in px of the layer. */
interface StagePoint extends Point {
  /** Index of the point that this one is a handle of. */
  readonly handleOf?: number
}

/** Entry of a document other than its layers: a loop, or a kind of medium by its name. */
export type EntryKind = 'loop' | MediumName

/** How the values of a property lie between, and away from, each other. What can be mixed can be keyed. */
export interface Mixing<P extends Described = Described, V extends MovingValue = MovingValue> {
  /** The schema of one value at a key. */
  readonly schema: z.ZodMiniType
  /** Linear mix, t = 0 giving a; t may lie outside [0, 1]. */
  readonly mix: (a: V, b: V, t: number) => V
  /** How far b lies from a, in `unit`: signed where values are numbers, a length ≥ 0 otherwise. */
  readonly distance: (a: V, b: V) => number
  /** The largest distance at the seam that no eye sees. */
  readonly threshold: (property: P) => number
  /** The unit of distances, and a distance in words. */
  readonly unit: (property: P) => string
  readonly distanceText: (property: P, distance: number) => string
  /** Whether each cycle can carry on from where the one before it ended. */
  readonly accumulates: boolean
  /** Where a new motion leads, and whether it carries on from there instead of coming back. */
  readonly start: (property: P, value: V) => { readonly to: V; readonly carriesOn: boolean }
  /** The value during a short event: a blink, a flash. */
  readonly flash: (property: P, value: V) => V
  /** How strongly a tremble that is new shakes it, in the unit of `shake`. */
  readonly tremble: (property: P) => number
  readonly shake: (value: V, by: number) => V
  /** A value at a share, 0 … 1, of the way to that of the last of several copies. */
  readonly towards: (value: V, to: V, share: number) => V
  /** First value for the difference of the last of several copies. */
  readonly spread: (property: P) => V
  /** Whether a value is of this type. */
  readonly is: (value: PropertyValue) => boolean
}

/**
 * A type of property: what its values are. One object in a file of its own, and a line in the table; how it is edited
 * stands in the table of editors of the interface.
 */
export interface PropertyType<P extends Described = Described, V extends MovingValue = MovingValue> {
  readonly type: string
  /** The schema of its values; what it accepts is all that is ever stored. */
  readonly schema: (property: P) => z.ZodMiniType
  /** Absent where values cannot be mixed, so that the property never moves. */
  readonly mixing?: Mixing<P, V>
  /** Names of the components of a value that has several. */
  readonly channels?: readonly string[]
  /** A value kept inside the range that the property declares. */
  readonly clamp?: (property: P, value: PropertyValue) => PropertyValue
  /** References of the value to entries of the document. */
  readonly references?: (
    property: P,
    value: PropertyValue,
  ) => readonly { readonly to: EntryKind; readonly id: string }[]
  /** How many drawings more one with this value costs. */
  readonly cost?: (value: PropertyValue) => number
  /** Its points in the layer, which are dragged on the stage. */
  readonly points?: {
    readonly of: (value: PropertyValue) => readonly StagePoint[]
    /** The value with the point of an index elsewhere. */
    readonly moved: (value: PropertyValue, index: number, to: Point) => PropertyValue
  }
  /** A few sound values, from which documents are made at random to be tried. */
  readonly examples: (property: P) => readonly PropertyValue[]
}
