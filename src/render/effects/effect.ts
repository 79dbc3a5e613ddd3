import type { Picture } from '@/core/image'
import type { EffectName, EffectValues } from '@/core/layers'
import { type Matrix, transformPoint } from '@/core/path'

/** Where and by what an effect acts. */
export interface Applied {
  /** From the effect's own px to those of the picture. */
  readonly matrix: Matrix
  /** Drawing of the effect's children, if the effect acts through them. */
  readonly map: Picture | null
  /** The picture that its reference names. */
  readonly table: Picture | null
}

/** How each effect changes a picture of all of the canvas, by its name. */
export type EffectDrawings = {
  readonly [Name in EffectName]: (picture: Picture, values: EffectValues<Name>, at: Applied) => Picture
}

/** Its centre on the canvas, px. */
export const centreOf = (matrix: Matrix) => transformPoint(matrix, { x: 0, y: 0 })
