import { list, number } from '../../schemas'
import type { Unit } from '../units'
import type { Described, PropertyType } from './type'

export interface NumbersProperty extends Described {
  readonly type: 'numbers'
  readonly default: readonly number[]
  readonly unit: Unit
  readonly most: number
}

/** The longest length in a list of them, such as dashes. */
export const MAX_DASH = 1e6

export const numbersType: PropertyType<NumbersProperty> = {
  type: 'numbers',
  schema: ({ most }) => list(number(0, MAX_DASH), most),
  examples: () => [[], [12, 8], [20]],
}
