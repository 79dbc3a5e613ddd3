import * as z from 'zod/mini'
import { MAX_PATH_DATA, movePathPoint, parsePath, pathPoints } from '../../path'
import { text } from '../../schemas'
import type { Described, PropertyType } from './type'

/** The `d` of an SVG path, in px of the layer. */
export interface PathProperty extends Described {
  readonly type: 'path'
  readonly default: string
}

/** Letters of path data that cost as much as one drawing more. */
const LETTERS = 400

export const pathType: PropertyType<PathProperty> = {
  type: 'path',
  schema: () =>
    text(MAX_PATH_DATA).check(z.refine((data) => parsePath(data) !== null, 'is not SVG path data such as M0 0L40 20')),
  points: {
    of: (value) => {
      const points = pathPoints(String(value))
      return points.map(({ x, y, part }, i) => {
        const anchor = part === 0 ? i - 1 : i + 1
        return part === 2 || !points[anchor] ? { x, y } : { x, y, handleOf: anchor }
      })
    },
    moved: (value, index, { x, y }) => {
      const point = pathPoints(String(value))[index]
      return point ? movePathPoint(String(value), point, Number(x.toFixed(2)), Number(y.toFixed(2))) : value
    },
  },
  cost: (value) => String(value).length / LETTERS,
  examples: () => [
    '',
    'M0 0L120 40',
    'M-80 -40L80 -40L80 40L-80 40Z',
    'M0 -60A60 60 0 1 1 0 60A60 60 0 1 1 0 -60Z',
    'M-80 0C-40 -90 40 90 80 0',
  ],
}
