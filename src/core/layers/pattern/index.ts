import { EFFECTS } from '../effects'
import { centredBox, type LayerKind, sizeProperty, tilesProperty, turnProperty, wrapped } from '../kind'
import { PLACEMENT } from '../placement'

const pitch = (label: string) =>
  ({ type: 'number', label, section: 'tile', unit: 'px', default: 80, min: 1, step: 1, moves: true }) as const
/** A tile of its children that fills a box: its pitch is known, and moved by whole tiles it comes home. */
export const pattern: LayerKind = {
  kind: 'pattern',
  icon: 'pattern',
  label: 'Pattern',
  shortcut: null,
  properties: {
    tileWidth: pitch('pitch across'),
    tileHeight: pitch('pitch down'),
    scale: {
      type: 'number',
      label: 'scale',
      section: 'tile',
      unit: '×',
      default: 1,
      min: 0.01,
      max: 100,
      step: 0.05,
      moves: true,
    },
    turn: turnProperty('tile'),
    offsetX: tilesProperty('moved across', 'tile'),
    offsetY: tilesProperty('moved down', 'tile'),
    width: sizeProperty('width', 480),
    height: sizeProperty('height', 360),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: true,
  // Each is drawn again where it may reach over an edge of the tile.
  drawsHeld: () => 9,
  draw: (values, inside) => ({
    type: 'pattern',
    box: centredBox(Number(values.width), Number(values.height)),
    tile: { width: Number(values.tileWidth), height: Number(values.tileHeight) },
    scale: Number(values.scale),
    turn: Number(values.turn),
    drift: { x: wrapped(values.offsetX), y: wrapped(values.offsetY) },
    children: inside.layers(),
  }),
  note: {
    section: 'tile',
    text: ({ tileWidth, tileHeight, scale }) => {
      const px = (side: unknown) => Number((Number(side) * Number(scale)).toFixed(2))
      return `One tile is ${px(tileWidth)} × ${px(tileHeight)} px here; shifted by whole ones it comes home.`
    },
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: () => ({}),
}
