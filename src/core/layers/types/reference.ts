import * as z from 'zod/mini'
import { id } from '../../schemas'
import type { Described, EntryKind, PropertyType } from './type'

/** The id of a loop, picture or clip that the document holds; empty for none. */
export interface ReferenceProperty extends Described {
  readonly type: 'reference'
  readonly to: EntryKind
  readonly default: string
}

export const referenceType: PropertyType<ReferenceProperty> = {
  type: 'reference',
  schema: () => z.union([z.literal(''), id]),
  references: ({ to }, value) => (typeof value === 'string' && value !== '' ? [{ to, id: value }] : []),
  examples: () => [''],
}
