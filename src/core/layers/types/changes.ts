import * as z from 'zod/mini'
import { colour } from '../../colour/schema'
import { coordinate, list } from '../../schemas'
import type { Change, Described, PropertyType } from './type'

/** Change from the first of several copies to the last. */
export interface ChangesProperty extends Described {
  readonly type: 'changes'
  readonly default: readonly Change[]
}

const to = z.union([coordinate, colour, list(coordinate, 64)])

export const changesType: PropertyType<ChangesProperty> = {
  type: 'changes',
  schema: () => list(z.strictObject({ property: z.string().check(z.regex(/^[A-Za-z]{1,40}$/)), to }), 40),
  examples: () => [
    [],
    [{ property: 'opacity', to: -0.6 }],
    [
      { property: 'rotation', to: 90 },
      { property: 'fill', to: '#79c9b4' },
    ],
  ],
}
