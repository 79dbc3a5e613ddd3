import * as z from 'zod/mini'
import { type BrushStroke, MAX_STROKE_POINTS } from '../../effects'
import { coordinate, list, number, share } from '../../schemas'
import type { Described, PropertyType } from './type'

/** Strokes of a brush, painted one over the other. */
export interface StrokesProperty extends Described {
  readonly type: 'strokes'
  readonly default: readonly BrushStroke[]
}

const MAX_STROKES = 5000
const MAX_BRUSH_PX = 4000

const stroke = z.strictObject({
  size: number(0.1, MAX_BRUSH_PX),
  softness: share,
  strength: share,
  erases: z.optional(z.literal(true)),
  points: list(coordinate, 3 * MAX_STROKE_POINTS, 3).check(
    z.refine((points) => points.length % 3 === 0, 'are not x, y and pressure of each point'),
  ),
})

/** This many points of strokes cost as much as one further drawing. */
const POINTS = 30

export const strokesType: PropertyType<StrokesProperty> = {
  type: 'strokes',
  schema: () => list(stroke, MAX_STROKES),
  cost: (value) => (value as readonly BrushStroke[]).reduce((sum, { points }) => sum + points.length / 3, 0) / POINTS,
  examples: () => [
    [],
    [{ size: 60, softness: 0.8, strength: 1, points: [-60, 0, 1, 10, 20, 0.5, 70, 0, 0.8] }],
    [
      { size: 90, softness: 0.5, strength: 0.7, points: [0, 0, 1] },
      { size: 30, softness: 0, strength: 1, erases: true, points: [-20, 0, 1, 20, 0, 1] },
    ],
  ],
}
