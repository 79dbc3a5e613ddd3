import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'

/** Layers that are placed, turned and faded as one. */
export const group: LayerKind = {
  kind: 'group',
  label: 'Group',
  shortcut: null,
  properties: PLACEMENT,
  holdsLayers: true,
  draw: (_values, children) => ({ type: 'group', children }),
  outline: null,
  bounds: () => null,
  fromDrag: () => ({}),
}
