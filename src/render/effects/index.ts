import { COLOUR_EFFECTS } from './colours'
import type { AppliedEffect } from './effect'
import { PLACE_EFFECTS } from './places'

export type { AppliedEffect } from './effect'

/** How every kind of effect changes a picture. */
const byKind = new Map([...COLOUR_EFFECTS, ...PLACE_EFFECTS].map((each) => [each.kind, each]))

/** How a kind of effect is applied. @throws RangeError for one that is not in the table */
export function appliedEffect(kind: string): AppliedEffect {
  const found = byKind.get(kind)
  if (!found) throw new RangeError(`there is no effect called “${kind}” in the table`)
  return found
}
