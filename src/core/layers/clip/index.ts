import { EFFECTS } from '../effects'
import { centredBox, type LayerKind, sizeProperty, timeProperty } from '../kind'
import { PLACEMENT } from '../placement'

/** Moving pictures of the document. Its time is a property: it runs by moving it, and there is a frame at every time. */
export const clip: LayerKind = {
  kind: 'clip',
  icon: 'film',
  label: 'Clip',
  shortcut: null,
  properties: {
    clip: { type: 'reference', to: 'clip', label: 'clip', section: 'shape', default: '' },
    time: timeProperty,
    width: sizeProperty('width', 240),
    height: sizeProperty('height', 240),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: false,
  running: 'time',
  draw: (values, inside) => {
    const id = inside.picture(String(values.clip), Number(values.time))
    if (id === null) return { type: 'group', children: [] }
    return { type: 'picture', id, box: centredBox(Number(values.width), Number(values.height)) }
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: () => ({}),
}
