import { MASKS } from '../../display'
import { EFFECTS } from '../effects'
import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'

/** Layers that are placed, turned and faded as one; the frontmost of them may mask the others. */
export const group: LayerKind = {
  kind: 'group',
  icon: 'group',
  label: 'Group',
  shortcut: null,
  properties: {
    ...PLACEMENT,
    mask: { type: 'choice', label: 'front masks', section: 'mask', options: MASKS, default: 'none' },
    ...EFFECTS,
  },
  holdsLayers: true,
  turning: 'rotation',
  mask: { cuts: ({ mask }) => mask !== 'none', none: (values) => ({ ...values, mask: 'none' }) },
  draw: (values, inside) => ({ type: 'group', children: inside.layers(), mask: values.mask as (typeof MASKS)[number] }),
  outline: null,
  bounds: () => null,
  fromDrag: () => ({}),
}
