import * as z from 'zod/mini'
import { type Curve, curveDistance, mixCurves, STRAIGHT } from '../../effects'
import { list, share } from '../../schemas'
import type { Described, PropertyType, PropertyValue } from './type'

/** A curve from shares to shares, as the x and y of its points one after the other. */
export interface CurveProperty extends Described {
  readonly type: 'curve'
  readonly default: readonly number[]
}

export const MAX_CURVE_POINTS = 16
/** Least horizontal distance of two points. */
export const MIN_POINT_GAP = 0.001

/** The points of a curve. */
export const curveOf = (value: PropertyValue): Curve => {
  if (!isNumbers(value)) return STRAIGHT
  return Array.from({ length: value.length >> 1 }, (_, i) => [value[2 * i] as number, value[2 * i + 1] as number])
}
export const curveNumbers = (curve: Curve): readonly number[] => curve.flat()

const isNumbers = (value: unknown): value is readonly number[] =>
  Array.isArray(value) && value.every((each) => typeof each === 'number')

const rises = (value: readonly number[]): boolean =>
  value.length % 2 === 0 &&
  value.every((x, i) => i < 2 || i % 2 === 1 || x - (value[i - 2] as number) >= MIN_POINT_GAP / 2)

const schema = list(share, 4 * MAX_CURVE_POINTS, 4).check(
  z.refine((value) => rises(value as number[]), 'are not points of a curve, each right of the one before'),
)

/** One step of an 8-bit channel. */
const THRESHOLD = 1 / 255

export const curveType: PropertyType<CurveProperty, readonly number[]> = {
  type: 'curve',
  schema: () => schema,
  mixing: {
    schema,
    mix: (a, b, t) => curveNumbers(mixed(curveOf(a), curveOf(b), t)),
    distance: (a, b) => curveDistance(curveOf(a), curveOf(b)),
    threshold: () => THRESHOLD,
    unit: () => 'share',
    distanceText: (_, distance) => `${Number((100 * distance).toFixed(2))} %`,
    accumulates: false,
    start: (_, value) => ({ to: curveNumbers(lifted(curveOf(value), 0.15)), carriesOn: false }),
    flash: () => [0, 1, 1, 1],
    tremble: () => 0.05,
    shake: (value, by) => curveNumbers(lifted(curveOf(value), by)),
    towards: (value, to, part) => curveNumbers(mixed(curveOf(value), curveOf(to), part)),
    spread: () => [0, 0.2, 1, 1],
    is: isNumbers,
  },
  examples: () => [curveNumbers(STRAIGHT), [0, 0, 0.25, 0.15, 0.75, 0.85, 1, 1], [0, 1, 1, 0]],
}

const bounded = (y: number) => Math.min(1, Math.max(0, y))

/** A mix that stays within what a curve may be, also before 0 and after 1, with no more points than are stored. */
function mixed(a: Curve, b: Curve, t: number): Curve {
  const points = mixCurves(a, b, t).filter(
    ([x], i, all) => i === 0 || x - (all[i - 1] as Curve[number])[0] >= MIN_POINT_GAP,
  )
  return points.length <= 2 * MAX_CURVE_POINTS
    ? points
    : points.filter((_, i) => i % 2 === 0 || i === points.length - 1)
}

/** A curve with its middle moved up or down, most where it is farthest from black and white. */
const lifted = (curve: Curve, by: number): Curve =>
  curve.map(([x, y]) => [x, bounded(y + by * (x > 0 && x < 1 ? 1 : curve.length === 2 ? 0.5 : 0))] as const)
