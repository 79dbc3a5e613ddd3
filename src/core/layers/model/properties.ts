import { sizeProperty } from '../kind'
import type { PropertyTable } from '../property'
import type { Values } from '../types'

/** The fold that stands for being round. */
export const ROUND_FOLD = 360

/** How a surface is painted. */
const MATERIALS = ['of the file', 'clay', 'one colour', 'glossy'] as const
/** Passes of a model: its colours, or a component that is combined with them later. */
export const PASSES = [
  'colour',
  'alpha',
  'wireframe',
  'occlusion',
  'depth',
  'normals',
  'shadow',
  'part colours',
] as const
const EDGE_LINES = ['creases', 'all edges'] as const
export const AXES = ['y, upright', 'x', 'z', 'drawn'] as const
export const PIVOTS = ['middle', 'centre of mass', 'origin of the file'] as const
const LENSES = ['perspective', 'parallel'] as const
export const GUIDES = ['the whole frame', '1:1', '4:3', '3:4', '16:9', '9:16'] as const
const MODEL_GROUNDS = ['none', 'shadow only', 'colour', 'disc', 'picture'] as const
export const LIGHTS = ['stand still', 'turn with it'] as const

type More = {
  readonly min?: number
  readonly max?: number
  readonly step?: number
  readonly when?: (values: Values) => boolean
}

const degrees = (section: string, label: string, value: number, more: More = {}) =>
  ({ type: 'number', label, section, unit: '°', default: value, step: 1, moves: true, ...more }) as const
/** Degrees of which a whole turn looks like none. */
const round = (section: string, label: string, value: number) =>
  ({ ...degrees(section, label, value, { step: 5 }), equivalence: 360, newTravel: 360 }) as const
const share = (section: string, label: string, value: number, more: More = {}) =>
  ({ type: 'number', label, section, unit: 'share', default: value, step: 0.01, moves: true, ...more }) as const
const strength = (label: string, value: number) =>
  ({
    type: 'number',
    label,
    section: 'light',
    unit: '×',
    default: value,
    min: 0,
    max: 20,
    step: 0.1,
    moves: true,
  }) as const
const colour = (section: string, label: string, value: string, when?: (values: Values) => boolean) =>
  ({ type: 'colour', label, section, default: value, moves: true, ...(when && { when }) }) as const

/** A light by its strength, from where it comes, and its colour. */
const light = (name: string, values: { strength: number; around: number; height: number; colour: string }) =>
  ({
    strength: strength(name, values.strength),
    around: round('light', `${name} from around`, values.around),
    height: degrees('light', `${name} from above`, values.height, { min: -90, max: 90, step: 5 }),
    colour: colour('light', `${name} colour`, values.colour),
  }) as const

const KEY = light('key light', { strength: 2.4, around: -35, height: 48, colour: '#fff3df' })
const FILL = light('fill light', { strength: 0.5, around: 60, height: 20, colour: '#cfe6ff' })
const BACK = light('back light', { strength: 1.2, around: 160, height: 40, colour: '#ffffff' })

const paints = ({ pass }: Values): boolean => pass === 'colour'
const hasLines = ({ pass }: Values): boolean => pass === 'wireframe'
const focuses = ({ aperture }: Values): boolean => aperture !== 0

const fold = (axis: (typeof AXES)[number]) =>
  ({
    type: 'number',
    label: 'fold',
    section: 'turn',
    unit: '',
    default: 1,
    min: 1,
    max: ROUND_FOLD,
    step: 1,
    whole: true,
    when: (values: Values) => values.axis === axis,
  }) as const

const FOLDS: Readonly<Record<string, string>> = { x: 'foldX', 'y, upright': 'foldY', z: 'foldZ' }

/**
 * After how many equal parts of a turn a model looks the same: its fold about its axis, where that goes through its centre of mass and nothing
 * else tells how far it has turned.
 */
export function foldOfTurn(values: Values): number {
  const { axis, pivot, aboutX, aboutY, aboutZ, lights } = values
  const through = pivot === PIVOTS[1] && aboutX === 0 && aboutY === 0 && aboutZ === 0
  return through && lights === LIGHTS[0] ? Number(values[FOLDS[String(axis)] ?? ''] ?? 1) : 1
}

/** How a model turns. Lengths are shares of its largest side. */
export const TURN = {
  turn: {
    type: 'number',
    label: 'turn',
    section: 'turn',
    unit: '°',
    default: 0,
    step: 5,
    moves: true,
    equivalence: (values: Values) => 360 / foldOfTurn(values),
    newTravel: 360,
  },
  foldX: fold('x'),
  foldY: fold('y, upright'),
  foldZ: fold('z'),
  axis: { type: 'choice', label: 'axis', section: 'turn', options: AXES, default: 'y, upright' },
  axisX: share('turn', 'axis x', 0, { when: ({ axis }) => axis === 'drawn' }),
  axisY: share('turn', 'axis y', 1, { when: ({ axis }) => axis === 'drawn' }),
  axisZ: share('turn', 'axis z', 0, { when: ({ axis }) => axis === 'drawn' }),
  lean: degrees('turn', 'lean', 0),
  pivot: { type: 'choice', label: 'pivot', section: 'turn', options: PIVOTS, default: 'middle' },
  aboutX: share('turn', 'pivot right', 0),
  aboutY: share('turn', 'pivot up', 0),
  aboutZ: share('turn', 'pivot forward', 0),
} as const satisfies PropertyTable

/** From where a model is seen. */
export const CAMERA = {
  around: round('camera', 'from around', 0),
  above: degrees('camera', 'from above', 14, { min: -90, max: 90 }),
  roll: round('camera', 'roll', 0),
  lens: { type: 'choice', label: 'lens', section: 'camera', options: LENSES, default: 'perspective' },
  focal: {
    type: 'number',
    label: 'focal length, mm',
    section: 'camera',
    unit: '',
    default: 50,
    min: 8,
    max: 600,
    step: 1,
    moves: true,
    when: ({ lens }) => lens === 'perspective',
  },
  distance: {
    type: 'number',
    label: 'distance',
    section: 'camera',
    unit: '×',
    default: 1,
    min: 0.1,
    max: 20,
    step: 0.05,
    moves: true,
  },
  guide: { type: 'choice', label: 'frame guide', section: 'camera', options: GUIDES, default: 'the whole frame' },
  margin: share('camera', 'margin', 0.08, { min: 0, max: 0.45 }),
  aperture: share('camera', 'depth of field', 0, { min: 0, max: 0.2 }),
  focus: share('camera', 'focus nearer', 0, { min: -1, max: 1, when: focuses }),
} as const satisfies PropertyTable

/** Light, ground and shading of a model. */
export const LOOK = {
  keyStrength: KEY.strength,
  keyAround: KEY.around,
  keyHeight: KEY.height,
  keyColour: KEY.colour,
  fillStrength: FILL.strength,
  fillAround: FILL.around,
  fillHeight: FILL.height,
  fillColour: FILL.colour,
  backStrength: BACK.strength,
  backAround: BACK.around,
  backHeight: BACK.height,
  backColour: BACK.colour,
  surround: strength('from all around', 0.7),
  surroundColour: colour('light', 'all around colour', '#dfe9ee'),
  lights: { type: 'choice', label: 'lights', section: 'light', options: LIGHTS, default: 'stand still' },
  ground: { type: 'choice', label: 'ground', section: 'ground', options: MODEL_GROUNDS, default: 'shadow only' },
  groundColour: colour('ground', 'ground colour', '#c9d6d8', ({ ground }) => ground === 'colour' || ground === 'disc'),
  groundPicture: {
    type: 'reference',
    to: 'picture',
    label: 'ground picture',
    section: 'ground',
    default: '',
    when: ({ ground }) => ground === 'picture',
  },
  groundSize: {
    type: 'number',
    label: 'ground size',
    section: 'ground',
    unit: '×',
    default: 1,
    min: 0.1,
    max: 20,
    step: 0.1,
    moves: true,
    when: ({ ground }) => ground === 'picture' || ground === 'disc',
  },
  shadow: share('ground', 'shadow', 0.5, { min: 0, max: 1, when: ({ ground }) => ground !== 'none' }),
} as const satisfies PropertyTable

export const SURFACE = {
  model: { type: 'reference', to: 'model', label: 'model', section: 'model', default: '' },
  pass: { type: 'choice', label: 'pass', section: 'model', options: PASSES, default: 'colour' },
  edges: { type: 'choice', label: 'lines', section: 'model', options: EDGE_LINES, default: 'creases', when: hasLines },
  lineWidth: {
    type: 'number',
    label: 'line width',
    section: 'model',
    unit: 'px',
    default: 1.5,
    min: 0.25,
    max: 40,
    step: 0.25,
    moves: true,
    when: hasLines,
  },
  lineColour: colour('model', 'line colour', '#0b2230', hasLines),
  material: {
    type: 'choice',
    label: 'material',
    section: 'model',
    options: MATERIALS,
    default: 'of the file',
    when: paints,
  },
  materialColour: colour(
    'model',
    'material colour',
    '#c8472f',
    ({ pass, material }) => pass === 'colour' && (material === 'one colour' || material === 'glossy'),
  ),
  width: sizeProperty('width', 480),
  height: sizeProperty('height', 480),
} as const
