import type { NodeType } from '../node'
import { effectType } from './effect'
import { groupType } from './group'
import { modelType, partType } from './model'
import { particlesType } from './particles'
import { patternType } from './pattern'
import { pictureType } from './picture'
import { shapeType } from './shape'
import { strokesNode } from './strokes'
import { textureType } from './texture'

/** Every type of display node. A new one is a file beside this one and a line here, and one in the table of painters. */
export const NODE_TYPES: readonly NodeType<never>[] = [
  shapeType,
  groupType,
  pictureType,
  textureType,
  particlesType,
  patternType,
  effectType,
  strokesNode,
  modelType,
  partType,
]
