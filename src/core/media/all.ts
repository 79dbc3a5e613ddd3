import { clipMedium } from './clip'
import { tableOfColours } from './colour-table'
import type { MediumKind } from './medium'
import { modelMedium } from './model'
import { stillMedium } from './still'

/** All kinds of media. A new kind is a file, and a line here. */
const ALL = [stillMedium, clipMedium, tableOfColours, modelMedium] as const

/** Name of a kind of medium. */
export type MediumName = (typeof ALL)[number]['kind']
export const MEDIUM_KINDS = ALL as unknown as readonly (MediumKind & { readonly kind: MediumName })[]
