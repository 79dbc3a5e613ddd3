import { roundedRectanglePath } from '../../path'
import { centredBox, defineShape, dragBox, sizeProperty } from '../kind'

export const rectangle = defineShape({
  kind: 'rectangle',
  label: 'Rounded rectangle',
  shortcut: 'r',
  properties: {
    width: sizeProperty('width', 200),
    height: sizeProperty('height', 140),
    radius: sizeProperty('corner radius', 16),
  },
  outline: ({ width, height, radius }) => roundedRectanglePath(width, height, radius),
  bounds: ({ width, height }) => centredBox(width, height),
  fromDrag: dragBox,
  fold: ({ width, height }) => (width === height ? 4 : 2),
})
