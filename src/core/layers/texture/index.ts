import { LOOK_NAMES, type TextureSpec, texturePicture } from '../../texture'
import { EFFECTS } from '../effects'
import { centredBox, dragBox, type LayerKind, sizeProperty } from '../kind'
import { PLACEMENT } from '../placement'
import type { Stop, Values } from '../types'

const share = (label: string, value: number, shown: readonly [number, number], max = 1) =>
  ({
    type: 'number',
    label,
    section: 'texture',
    unit: 'share',
    default: value,
    min: 0,
    max,
    step: 0.05,
    moves: true,
    shown,
  }) as const
const count = (label: string, value: number, max: number) =>
  ({
    type: 'number',
    label,
    section: 'texture',
    unit: '',
    default: value,
    min: 1,
    max,
    step: 1,
    whole: true,
  }) as const
const drift = (label: string) =>
  ({
    type: 'number',
    label,
    section: 'life',
    unit: 'tiles',
    default: 0,
    step: 1,
    moves: true,
    equivalence: 1,
    newTravel: 1,
  }) as const

/** So many features fit a side as come nearest to their size: whole ones, so that it tiles. */
const featuresOf = (side: number, size: number): number => Math.max(1, Math.round(side / Math.max(1, size)))

const turns = ({ turn }: Values): boolean => Number(turn) % 360 !== 0

const wrapped = (value: unknown) => Number(value) - Math.floor(Number(value))

/** The texture that the values of a layer describe. */
function specOf(values: Values): TextureSpec {
  const size = Number(values.size)
  return {
    look: String(values.look),
    contrast: Number(values.spread),
    ramp: {
      from: String(values.colour ?? 'transparent'),
      to: String(values.colourTo ?? 'transparent'),
      stops: values.stops as readonly Stop[],
    },
    shape: {
      cellsX: featuresOf(Number(values.width), size),
      cellsY: featuresOf(Number(values.height), size),
      octaves: Number(values.octaves),
      roughness: Number(values.roughness),
      warp: Number(values.warp),
      steps: Number(values.steps),
      seed: Number(values.seed),
      time: wrapped(values.time),
    },
  }
}

/** A field of clouds, bands, cells and the like over one tile, periodic in x, y and time by construction. */
export const texture: LayerKind = {
  kind: 'texture',
  icon: 'texture',
  label: 'Texture',
  shortcut: 'g',
  properties: {
    look: { type: 'choice', label: 'look', section: 'texture', options: LOOK_NAMES, default: 'clouds' },
    size: {
      type: 'number',
      label: 'feature size',
      section: 'texture',
      unit: 'px',
      default: 160,
      min: 1,
      step: 10,
      shown: [60, 240],
    },
    octaves: { ...count('octaves', 4, 8), shown: [1, 6] },
    roughness: share('roughness', 0.5, [0.2, 0.85]),
    warp: share('warp', 0.4, [0, 2], 3),
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
    seed: {
      type: 'number',
      label: 'seed',
      section: 'texture',
      unit: '',
      default: 1,
      min: 0,
      max: 9999,
      step: 1,
      whole: true,
    },
    colour: { type: 'colour', label: 'darkest', section: 'colours', default: '#0b2230', moves: true },
    stops: { type: 'stops', label: 'between', section: 'colours', default: [], most: 6 },
    colourTo: { type: 'colour', label: 'lightest', section: 'colours', default: '#79c9b4', moves: true },
    time: {
      type: 'number',
      label: 'evolves',
      section: 'life',
      unit: 'cycles',
      default: 0,
      step: 0.05,
      moves: true,
      equivalence: 1,
      newTravel: 1,
    },
    steps: { ...count('changes', 2, 64), section: 'life' },
    driftX: drift('drift across'),
    driftY: drift('drift down'),
    turn: {
      type: 'number',
      label: 'turn',
      section: 'life',
      unit: '°',
      default: 0,
      step: 5,
      moves: true,
      equivalence: 360,
      newTravel: 360,
    },
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
