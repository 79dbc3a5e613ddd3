import * as z from 'zod/mini'
import type { Described, PropertyType } from './type'

export interface ChoiceProperty extends Described {
  readonly type: 'choice'
  readonly options: readonly string[]
  readonly default: string
}

export const choiceType: PropertyType<ChoiceProperty> = {
  type: 'choice',
  schema: ({ options }) => z.enum(options as [string, ...string[]]),
  examples: ({ options }) => options,
}
