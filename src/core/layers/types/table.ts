import { PROPERTY_TYPES } from './all'
import type { Described, PropertyType } from './type'

const byName = new Map(PROPERTY_TYPES.map((each) => [each.type, each as unknown as PropertyType]))

/** The type of a property. @throws RangeError for one that is not in the table */
export function propertyType({ type }: Pick<Described, 'type'>): PropertyType {
  const found = byName.get(type)
  if (!found) throw new RangeError(`there is no type of property called “${type}”`)
  return found
}
