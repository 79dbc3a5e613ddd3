import type { DisplayNode } from '../../display'
import { IDENTITY, type Matrix } from '../../path'
import { CELL_SHAPES, type LatticeSpec, latticeCost, latticeCounts, latticeFaces, VIEWS } from '../../texture'
import { EFFECTS } from '../effects'
import { FIELD, FIELD_COLOURS, FIELD_LIFE, rampOf, shapeOf } from '../field'
import { centredBox, dragBox, type LayerKind, sizeProperty } from '../kind'
import { PLACEMENT } from '../placement'
import type { Values } from '../types'

const px = (label: string, value: number) =>
  ({ type: 'number', label, section: 'lattice', unit: 'px', default: value, min: 0, step: 1, moves: true }) as const
const degrees = (label: string, value: number, extra = {}) =>
  ({ type: 'number', label, section: 'lattice', unit: '°', default: value, step: 5, moves: true, ...extra }) as const
const fromAside = ({ view }: Values) => view !== 'from above'

const SHOWN = ['prisms', 'layers', 'layers on prisms'] as const

/** The lattice that the values of a layer describe. */
const specOf = (values: Values): LatticeSpec => {
  const width = Number(values.width)
  const height = Number(values.height)
  return {
    cell: values.cell as LatticeSpec['cell'],
    width,
    height,
    size: Number(values.cellSize),
    gap: Number(values.gap),
    look: String(values.look),
    shape: shapeOf(values, width, height),
    rise: Number(values.rise),
    shrink: Number(values.shrink),
    twist: Number(values.twist),
    ramp: rampOf(values),
    view: values.view as LatticeSpec['view'],
    tilt: Number(values.tilt),
    yaw: Number(values.yaw),
  }
}

/** Cells side by side whose height, size, turn and colour follow a field, so that a swell passes through them and comes home. */
export const lattice: LayerKind = {
  kind: 'lattice',
  icon: 'lattice',
  label: 'Lattice',
  shortcut: null,
  drawn: true,
  properties: {
    cell: { type: 'choice', label: 'cells', section: 'lattice', options: CELL_SHAPES, default: 'hexagon' },
    shown: { type: 'choice', label: 'shown as', section: 'lattice', options: SHOWN, default: 'prisms' },
    cellSize: { ...px('cell size', 40), min: 4 },
    gap: px('gap', 3),
    rise: px('rise', 40),
    shrink: {
      type: 'number',
      label: 'low ones shrink',
      section: 'lattice',
      unit: 'share',
      default: 0,
      min: 0,
      max: 1,
      step: 0.05,
      moves: true,
    },
    twist: degrees('high ones turn', 0),
    view: { type: 'choice', label: 'view', section: 'lattice', options: VIEWS, default: 'slant' },
    tilt: degrees('tilt', 50, { min: 0, max: 85, when: fromAside }),
    yaw: degrees('turned', 30, { equivalence: 360, when: fromAside }),
    outline: { type: 'colour', label: 'outline', section: 'lattice', default: null, moves: true },
    outlineWidth: { ...px('outline width', 1), when: ({ outline }) => outline !== null },
    ...FIELD,
    look: { ...FIELD.look, default: 'ripples' },
    roughness: { ...FIELD.roughness, default: 0 },
    ...FIELD_COLOURS,
    ...FIELD_LIFE,
    width: sizeProperty('width', 480),
    height: sizeProperty('height', 360),
    ...PLACEMENT,
    ...EFFECTS,
  },
  holdsLayers: true,
  heldNone: true,
  drawsHeld: (values) => {
    const { across, rows } = latticeCounts(specOf(values))
    return values.shown === 'prisms' ? 0 : 2 * across * rows
  },
  placesInside: () => [],
  begins: ['time'],
  drawings: (values) =>
    latticeCost({
      cell: values.cell as LatticeSpec['cell'],
      width: Number(values.width),
      height: Number(values.height),
      size: Number(values.cellSize),
      view: values.view as LatticeSpec['view'],
    }),
  draw: (values, inside) => {
    const colour = values.outline as string | null
    const width = Number(values.outlineWidth)
    const held = values.shown === 'prisms' ? [] : inside.layers()
    const plain = { layerId: '', opacity: 1, blend: 'normal' } as const
    const children = latticeFaces(specOf(values)).flatMap((face): DisplayNode[] => {
      const prism: DisplayNode = {
        type: 'shape',
        ...plain,
        transform: IDENTITY,
        fill: { path: face.path, colour: face.colour },
        stroke:
          colour && width > 0
            ? { path: face.path, colour, width, cap: 'butt', join: 'round', dash: [], dashOffset: 0 }
            : null,
      }
      const { place } = face
      const shown = values.shown === 'layers' ? [] : [prism]
      if (held.length === 0 || !place) return shown
      const cos = place.scale * Math.cos(place.turn)
      const sin = place.scale * Math.sin(place.turn)
      const transform: Matrix = [cos, sin, -sin, cos, place.x, place.y]
      return [...shown, { type: 'group', ...plain, transform, children: held }]
    })
    return { type: 'group', children, clip: centredBox(Number(values.width), Number(values.height)) }
  },
  note: {
    section: 'lattice',
    text: (values) => {
      const spec = specOf(values)
      const { across, rows } = latticeCounts(spec)
      return spec.view === 'from above'
        ? `${across} × ${rows} cells: it tiles in x, y and time.`
        : `${across} × ${rows} cells; from above it tiles.`
    },
  },
  outline: null,
  bounds: ({ width, height }) => centredBox(Number(width), Number(height)),
  fromDrag: (from, to) => dragBox(from, to),
}
