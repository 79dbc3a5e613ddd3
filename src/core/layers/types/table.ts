import { changesType } from './changes'
import { choiceType } from './choice'
import { colourType } from './colour'
import { numberType } from './number'
import { numbersType } from './numbers'
import { pathType } from './path'
import { referenceType } from './reference'
import { stopsType } from './stops'
import { textType } from './text'
import type { Described, PropertyType } from './type'

/** Every type of property. A new one is a file beside this one and a line here. */
export const PROPERTY_TYPES: readonly PropertyType<never, never>[] = [
  numberType,
  colourType,
  choiceType,
  numbersType,
  textType,
  pathType,
  referenceType,
  changesType,
  stopsType,
] as never

const byName = new Map(PROPERTY_TYPES.map((each) => [each.type, each as unknown as PropertyType]))

/** The type of a property. @throws RangeError for one that is not in the table */
export function propertyType({ type }: Pick<Described, 'type'>): PropertyType {
  const found = byName.get(type)
  if (!found) throw new RangeError(`there is no type of property called “${type}”`)
  return found
}
