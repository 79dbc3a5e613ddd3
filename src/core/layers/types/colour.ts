import * as z from 'zod/mini'
import { colourDistance, mixColours } from '../../colour'
import { colour } from '../../colour/schema'
import type { Described, PropertyType } from './type'

export interface ColourProperty extends Described {
  readonly type: 'colour'
  /** null: none is painted. */
  readonly default: string | null
}

/** A distance in OKLab, about one step of an 8-bit channel. */
const THRESHOLD = 1 / 255

export const colourType: PropertyType<ColourProperty, string> = {
  type: 'colour',
  schema: () => z.nullable(colour),
  mixing: {
    schema: colour,
    mix: mixColours,
    distance: (a, b) => colourDistance(String(a), String(b)),
    threshold: () => THRESHOLD,
    unit: () => 'OKLab',
    distanceText: (_, distance) => `${distance.toFixed(3)} in OKLab`,
    accumulates: false,
    start: (_, value) => ({ to: mixColours(String(value), 'white', 0.5), carriesOn: false }),
    flash: () => 'white',
    tremble: () => 0.15,
    shake: (value, by) => mixColours(value, by > 0 ? 'white' : 'black', Math.min(1, Math.abs(by))),
    towards: mixColours,
    spread: () => '#79c9b4',
    is: (value) => typeof value === 'string',
  },
  examples: (property) => [property.default, '#f2b54a', 'rgb(120 200 190 / 0.5)', 'transparent'],
}
