import type { Picture } from '@/core/image'
import type { PropertyTable, Values, ValuesOf } from '@/core/layers'
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

/** How a kind of effect changes a picture of all of the canvas. */
export interface AppliedEffect {
  readonly kind: string
  readonly apply: (picture: Picture, values: Values, at: Applied) => Picture
}

/** @param apply is given values as the properties of the kind describe them */
export const applied = <T extends PropertyTable>(
  kind: string,
  apply: (picture: Picture, values: ValuesOf<T>, at: Applied) => Picture,
): AppliedEffect => ({ kind, apply: (picture, values, at) => apply(picture, values as unknown as ValuesOf<T>, at) })

/** Its centre on the canvas, px. */
export const centreOf = (matrix: Matrix) => transformPoint(matrix, { x: 0, y: 0 })
