import { text } from '../../schemas'
import type { Described, PropertyType } from './type'

/** Words to be set, several lines allowed. */
export interface TextProperty extends Described {
  readonly type: 'text'
  readonly default: string
  readonly most: number
}

export const textType: PropertyType<TextProperty> = {
  type: 'text',
  schema: ({ most }) => text(most),
  examples: () => ['', 'Pier', 'Ferry at\nnoon'],
}
