import { BLEND_MODES } from '../display'
import { compose, type Matrix } from '../path'
import type { PropertyTable, ValuesOf } from './property'
import type { Values } from './types'

/** The properties that every layer has. x and y place the layer's own centre where nothing is turned or scaled. */
export const PLACEMENT = {
  x: { type: 'number', label: 'x', section: 'place', unit: 'px', default: 0, step: 1, moves: true },
  y: { type: 'number', label: 'y', section: 'place', unit: 'px', default: 0, step: 1, moves: true },
  rotation: {
    type: 'number',
    label: 'rotation',
    section: 'place',
    unit: '°',
    default: 0,
    step: 1,
    moves: true,
    equivalence: 360,
    newTravel: 360,
  },
  scaleX: { type: 'number', label: 'scale x', section: 'place', unit: '×', default: 1, step: 0.05, moves: true },
  scaleY: { type: 'number', label: 'scale y', section: 'place', unit: '×', default: 1, step: 0.05, moves: true },
  opacity: {
    type: 'number',
    label: 'opacity',
    section: 'place',
    unit: 'share',
    default: 1,
    min: 0,
    max: 1,
    step: 0.05,
    moves: true,
  },
  blend: {
    type: 'choice',
    label: 'blend mode',
    section: 'place',
    options: BLEND_MODES,
    default: 'normal',
    seldom: true,
  },
  pivotX: {
    type: 'number',
    label: 'pivot x',
    section: 'place',
    unit: 'px',
    default: 0,
    step: 1,
    moves: true,
    seldom: true,
  },
  pivotY: {
    type: 'number',
    label: 'pivot y',
    section: 'place',
    unit: 'px',
    default: 0,
    step: 1,
    moves: true,
    seldom: true,
  },
} as const satisfies PropertyTable

export type Placement = ValuesOf<typeof PLACEMENT>

/** T(x + pivot) · R(rotation) · S(scale) · T(−pivot): the pivot is the point that stays when the layer turns. */
export function placementMatrix(values: Placement | Values): Matrix {
  const { x, y, rotation, scaleX, scaleY, pivotX, pivotY } = values as Placement
  const quarter = rotation / 90
  const angle = (rotation * Math.PI) / 180
  const exact = Number.isInteger(quarter) ? ((quarter % 4) + 4) % 4 : -1
  const cos = exact < 0 ? Math.cos(angle) : ([1, 0, -1, 0][exact] as number)
  const sin = exact < 0 ? Math.sin(angle) : ([0, 1, 0, -1][exact] as number)
  const linear: Matrix = [cos * scaleX, sin * scaleX, -sin * scaleY, cos * scaleY, x + pivotX, y + pivotY]
  return compose(linear, [1, 0, 0, 1, -pivotX, -pivotY])
}
