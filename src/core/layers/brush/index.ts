import type { BrushStroke } from '../../effects'
import { EFFECTS } from '../effects'
import type { LayerKind } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'

const strokesOf = ({ strokes }: Values) => strokes as readonly BrushStroke[]

/** Strokes of a soft round brush; mostly used as a mask. */
export const brush: LayerKind = {
  kind: 'brush',
  icon: 'brush',
  label: 'Painted mask',
  shortcut: null,
  properties: {
    strokes: { type: 'strokes', label: 'strokes', section: 'brush', default: [] },
    colour: { type: 'colour', label: 'colour', section: 'brush', default: '#ffffff', moves: true },
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: false,
  draw: (values) => ({
    type: 'strokes',
    strokes: strokesOf(values),
    colour: String(values.colour ?? 'transparent'),
  }),
  note: {
    section: 'brush',
    text: (values) =>
      strokesOf(values).length === 0
        ? 'Nothing is painted yet: it covers all.'
        : 'Blur, under Effects, feathers it; opacity is its density.',
  },
  outline: null,
  bounds: (values) => boundsOf(strokesOf(values)),
  fromDrag: () => ({}),
}

/** The box around strokes, about the layer's centre; null where nothing is painted. */
function boundsOf(strokes: readonly BrushStroke[]) {
  let left = Infinity
  let top = Infinity
  let right = -Infinity
  let bottom = -Infinity
  for (const { size, points } of strokes)
    for (let n = 0; n < points.length; n += 3) {
      const x = points[n] as number
      const y = points[n + 1] as number
      left = Math.min(left, x - size / 2)
      right = Math.max(right, x + size / 2)
      top = Math.min(top, y - size / 2)
      bottom = Math.max(bottom, y + size / 2)
    }
  return left < right ? { x: left, y: top, width: right - left, height: bottom - top } : null
}
