import { MASKS } from '../../display'
import { EFFECTS } from '../effects'
import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'

const cuts = ({ mask }: Values): boolean => mask !== 'none'

/** Layers that are placed, turned and faded as one; the frontmost of them may mask the others. */
export const group: LayerKind = {
  kind: 'group',
  icon: 'group',
  label: 'Group',
  shortcut: null,
  properties: {
    ...PLACEMENT,
    mask: { type: 'choice', label: 'front masks', section: 'mask', options: MASKS, default: 'none' },
    feather: { ...EFFECTS.blur, label: 'feather', section: 'mask', when: cuts },
    density: { ...PLACEMENT.opacity, label: 'density', section: 'mask', when: cuts },
    ...EFFECTS,
  },
  holdsLayers: true,
  turning: 'rotation',
  mask: { cuts, none: (values) => ({ ...values, mask: 'none' }) },
  draw: (values, inside) => ({
    type: 'group',
    children: inside.layers(),
    mask: values.mask as (typeof MASKS)[number],
    ...(cuts(values) && { feather: Number(values.feather), density: Number(values.density) }),
  }),
  outline: null,
  bounds: () => null,
  fromDrag: () => ({}),
}
