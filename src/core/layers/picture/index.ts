import { EFFECTS } from '../effects'
import { centredBox, type LayerKind, sizeProperty } from '../kind'
import { PLACEMENT } from '../placement'

/** A still picture of the document, with its transparency. */
export const picture: LayerKind = {
  kind: 'picture',
  icon: 'picture',
  label: 'Picture',
  shortcut: null,
  properties: {
    picture: { type: 'reference', to: 'picture', label: 'picture', section: 'shape', default: '' },
    width: sizeProperty('width', 240),
    height: sizeProperty('height', 240),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: false,
  draw: (values, inside) => {
    const id = inside.picture(String(values.picture), 0)
    if (id === null) return { type: 'group', children: [] }
    return { type: 'picture', id, box: centredBox(Number(values.width), Number(values.height)) }
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: () => ({}),
}
