import { ellipsePath } from '../../path'
import { centredBox, defineShape, dragBox, sizeProperty } from '../kind'

export const ellipse = defineShape({
  kind: 'ellipse',
  label: 'Ellipse',
  shortcut: 'e',
  properties: { width: sizeProperty('width', 160), height: sizeProperty('height', 160) },
  outline: ({ width, height }) => ellipsePath(width / 2, height / 2),
  radius: ({ width, height }) => (width === height ? width / 2 : null),
  bounds: ({ width, height }) => centredBox(width, height),
  fromDrag: dragBox,
  fold: ({ width, height }) => (width === height ? CIRCLE_FOLD : 2),
})

/** A circle looks the same after any turn; a twentieth of a degree is finer than any eye tells apart. */
const CIRCLE_FOLD = 7200
