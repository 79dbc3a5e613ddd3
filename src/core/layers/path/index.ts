import { type Box, pathBox, pathOf } from '../../path'
import { defineShape } from '../kind'

/** A drawn path, open or closed, about its own centre. */
export const path = defineShape({
  kind: 'path',
  icon: 'pen',
  label: 'Path',
  shortcut: null,
  open: false,
  properties: { path: { type: 'path', label: 'path', section: 'shape', default: '' } },
  outline: ({ path }) => pathOf(path),
  bounds: ({ path }): Box => pathBox(pathOf(path)) ?? { x: 0, y: 0, width: 0, height: 0 },
  fromDrag: (from, to) => ({
    x: (from.x + to.x) / 2,
    y: (from.y + to.y) / 2,
    path: `M${(from.x - to.x) / 2} ${(from.y - to.y) / 2}L${(to.x - from.x) / 2} ${(to.y - from.y) / 2}`,
  }),
})
