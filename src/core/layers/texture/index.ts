import { type TextureSpec, texturePicture } from '../../texture'
import { EFFECTS } from '../effects'
import { FIELD, FIELD_COLOURS, FIELD_LIFE, featuresOf, rampOf, shapeOf } from '../field'
import { centredBox, dragBox, type LayerKind, sizeProperty, tilesProperty, turnProperty, wrapped } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'

const turns = ({ turn }: Values): boolean => Number(turn) % 360 !== 0

/** The texture that the values of a layer describe. */
const specOf = (values: Values): TextureSpec => ({
  look: String(values.look),
  contrast: Number(values.spread),
  ramp: rampOf(values),
  shape: shapeOf(values, Number(values.width), Number(values.height)),
})

/** A field of clouds, bands, cells and the like over one tile, periodic in x, y and time by construction. */
export const texture: LayerKind = {
  kind: 'texture',
  icon: 'texture',
  label: 'Texture',
  shortcut: 'g',
  properties: {
    ...FIELD,
    spread: {
      type: 'number',
      label: 'spread',
      section: 'texture',
      unit: '×',
      default: 1,
      min: 0,
      max: 8,
      step: 0.1,
      moves: true,
      shown: [0.4, 2.5],
    },
    ...FIELD_COLOURS,
    ...FIELD_LIFE,
    driftX: tilesProperty('drift across', 'life'),
    driftY: tilesProperty('drift down', 'life'),
    turn: turnProperty('life'),
    width: sizeProperty('width', 480),
    height: sizeProperty('height', 360),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: false,
  begins: ['time'],
  draw: (values) => ({
    type: 'texture',
    box: centredBox(Number(values.width), Number(values.height)),
    spec: specOf(values),
    drift: { x: wrapped(values.driftX), y: wrapped(values.driftY) },
    turn: Number(values.turn),
  }),
  sample: (values, width, height) => texturePicture(specOf(values), width, height),
  note: {
    section: 'texture',
    text: (values) => {
      const across = featuresOf(Number(values.width), Number(values.size))
      const down = featuresOf(Number(values.height), Number(values.size))
      return turns(values)
        ? 'It does not tile while it is turned; it comes home by whole turns.'
        : `It tiles in x, y and time: ${across} × ${down} features.`
    },
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: (from, to) => dragBox(from, to),
}
