import type { Picture } from '@/core/image'
import type { Values } from '@/core/layers'
import { COLOUR_EFFECTS } from './colours'
import type { Applied, EffectDrawings } from './effect'
import { PLACE_EFFECTS } from './places'

/** How every effect is drawn: one that the table of kinds names and this one does not is an error of types. */
const DRAWINGS: EffectDrawings = { ...COLOUR_EFFECTS, ...PLACE_EFFECTS }

/** Draws an effect with the values of its layer, which its properties describe. */
type Draw = (picture: Picture, values: Values, at: Applied) => Picture
const byName = new Map(Object.entries(DRAWINGS)) as unknown as ReadonlyMap<string, Draw>

/** How an effect is drawn. @throws RangeError for a name that is not in the table */
export function effectDrawing(name: string): Draw {
  const drawing = byName.get(name)
  if (!drawing) throw new RangeError(`there is no effect called “${name}” in the table`)
  return drawing
}
