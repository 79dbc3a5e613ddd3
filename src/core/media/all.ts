import { clipMedium } from './clip'
import { tableOfColours } from './colour-table'
import type { MediumKind } from './medium'
import { modelMedium } from './model'
import { stillMedium } from './still'

/** All kinds of media. A new kind is a file, and a line here. */
export const MEDIUM_KINDS = [stillMedium, clipMedium, tableOfColours, modelMedium] as unknown as readonly MediumKind[]
