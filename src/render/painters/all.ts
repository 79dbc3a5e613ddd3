import { effectPainter } from './effect'
import { groupPainter } from './group'
import { modelPainter, partPainter } from './model'
import type { NodePainter } from './painter'
import { particlesPainter } from './particles'
import { patternPainter } from './pattern'
import { picturePainter } from './picture'
import { shapePainter } from './shape'
import { strokesPainter } from './strokes'
import { texturePainter } from './texture'

/** How every type of display node is painted. */
export const PAINTERS: readonly NodePainter<never>[] = [
  shapePainter,
  groupPainter,
  picturePainter,
  texturePainter,
  particlesPainter,
  patternPainter,
  effectPainter,
  strokesPainter,
  modelPainter,
  partPainter,
]
