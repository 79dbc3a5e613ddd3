import { LOOK_NAMES, type Ramp, type TextureShape } from '../texture'
import { timeProperty, wrapped } from './kind'
import type { PropertyTable } from './property'
import type { Stop, Values } from './types'

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
/** More features than these no tile shows, which has 4,096 px a side at the most. */
const MAX_FEATURES = 1024

/** Number of features along a side, nearest to their wanted size: a whole number, so that the field tiles. */
export const featuresOf = (side: number, size: number): number =>
  Math.min(MAX_FEATURES, Math.max(1, Math.round(side / Math.max(1, size))))

/** Properties of a field over a tile. */
export const FIELD = {
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
} as const satisfies PropertyTable

/** The colours of its values, the least first. */
export const FIELD_COLOURS = {
  colour: { type: 'colour', label: 'darkest', section: 'colours', default: '#0b2230', moves: true },
  stops: { type: 'stops', label: 'between', section: 'colours', default: [], most: 6 },
  colourTo: { type: 'colour', label: 'lightest', section: 'colours', default: '#79c9b4', moves: true },
} as const satisfies PropertyTable

/** How it lives. */
export const FIELD_LIFE = {
  time: { ...timeProperty, label: 'evolves', section: 'life' },
  steps: { ...count('changes', 2, 64), section: 'life' },
} as const satisfies PropertyTable

/** The shape of a field over a tile of a size, px: whole numbers of features, so that it tiles. */
export const shapeOf = (values: Values, width: number, height: number): TextureShape => ({
  cellsX: featuresOf(width, Number(values.size)),
  cellsY: featuresOf(height, Number(values.size)),
  octaves: Number(values.octaves),
  roughness: Number(values.roughness),
  warp: Number(values.warp),
  steps: Number(values.steps),
  seed: Number(values.seed),
  time: wrapped(values.time),
})

export const rampOf = ({ colour, colourTo, stops }: Values): Ramp => ({
  from: String(colour ?? 'transparent'),
  to: String(colourTo ?? 'transparent'),
  stops: stops as readonly Stop[],
})
