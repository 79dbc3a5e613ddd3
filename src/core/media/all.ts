import { clip } from './clip'
import { tableOfColours } from './colour-table'
import type { MediumKind } from './medium'
import { model } from './model'
import { still } from './still'

/** All kinds of media. A new kind is a file, and a line here. */
export const MEDIUM_KINDS = [still, clip, tableOfColours, model] as unknown as readonly MediumKind[]
