import { changesType } from './changes'
import { choiceType } from './choice'
import { colourType } from './colour'
import { curveType } from './curve'
import { numberType } from './number'
import { numbersType } from './numbers'
import { pathType } from './path'
import { referenceType } from './reference'
import { stopsType } from './stops'
import { strokesType } from './strokes'
import { textType } from './text'
import type { PropertyType } from './type'

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
  curveType,
  strokesType,
] as never
