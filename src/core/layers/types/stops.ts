import * as z from 'zod/mini'
import { colour } from '../../colour/schema'
import { list, share } from '../../schemas'
import type { Described, PropertyType, Stop } from './type'

/** Colours between the ends of a gradient. */
export interface StopsProperty extends Described {
  readonly type: 'stops'
  readonly default: readonly Stop[]
  readonly most: number
}

export const stopsType: PropertyType<StopsProperty> = {
  type: 'stops',
  schema: ({ most }) => list(z.strictObject({ at: share, colour }), most),
  examples: () => [[], [{ at: 0.4, colour: '#79c9b4' }]],
}
