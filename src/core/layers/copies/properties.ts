import type { PropertyTable, ValuesOf } from '../property'
import type { NumberProperty, Values } from '../types'

/** The most copies that one layer makes. */
export const MAX_COPIES = 1000

const only =
  (...arrangements: readonly string[]) =>
  (values: Values) =>
    arrangements.includes(String(values.arrangement))
const count = (label: string, value: number, when: (values: Values) => boolean) =>
  ({
    type: 'number',
    label,
    section: 'copies',
    unit: '',
    default: value,
    min: 1,
    max: MAX_COPIES,
    step: 1,
    whole: true,
    when,
  }) as const
const px = (label: string, value: number, extra: Partial<NumberProperty>) =>
  ({ type: 'number', label, section: 'copies', unit: 'px', default: value, step: 1, moves: true, ...extra }) as const
const staggered = ({ stagger }: Values) => stagger !== 0
/** Where the pitch says how many there are, or, in a row, how far apart. */
const byPitch = ({ arrangement, spacing }: Values) => arrangement === 'grid' || spacing === 'pitch'

export const COPIES = {
  arrangement: {
    type: 'choice',
    label: 'arranged in a',
    section: 'copies',
    options: ['row', 'ring', 'grid', 'path'],
    default: 'row',
  },
  spacing: {
    type: 'choice',
    label: 'spaced by',
    section: 'copies',
    options: ['count', 'pitch'],
    default: 'count',
    when: only('row', 'ring', 'path'),
  },
  count: count(
    'count',
    5,
    (values) => only('row')(values) || (only('ring', 'path')(values) && values.spacing === 'count'),
  ),
  columns: count('columns', 5, only('grid')),
  rows: count('rows', 3, only('grid')),
  pitch: px('pitch', 60, { min: 0.1, when: byPitch }),
  pitchY: px('pitch down', 60, { min: 0.1, when: only('grid') }),
  span: px('span', 320, { min: 0, when: (values) => only('row')(values) && values.spacing === 'count' }),
  direction: {
    type: 'number',
    label: 'direction',
    section: 'copies',
    unit: '°',
    default: 0,
    step: 5,
    moves: true,
    equivalence: 360,
    when: only('row'),
  },
  radius: px('radius', 120, { min: 0, when: only('ring') }),
  path: {
    type: 'path',
    label: 'path',
    section: 'copies',
    default:
      'M0 -120C66.27 -120 120 -66.27 120 0C120 66.27 66.27 120 0 120C-66.27 120 -120 66.27 -120 0C-120 -66.27 -66.27 -120 0 -120Z',
    when: only('path'),
  },
  turned: {
    type: 'choice',
    label: 'each one',
    section: 'copies',
    options: ['upright', 'turned'],
    default: 'turned',
    when: only('ring', 'path'),
  },
  shift: {
    type: 'number',
    label: 'moved along by',
    section: 'copies',
    unit: 'places',
    default: 0,
    step: 0.1,
    moves: true,
    newTravel: 1,
  },
  stagger: {
    type: 'number',
    label: 'stagger',
    section: 'copies',
    unit: 'share',
    default: 0,
    min: -1,
    max: 1,
    step: 0.01,
  },
  staggerBy: {
    type: 'choice',
    label: 'staggered by',
    section: 'copies',
    options: ['order', 'centre', 'shuffle'],
    default: 'order',
    when: staggered,
  },
  seed: {
    type: 'number',
    label: 'seed',
    section: 'copies',
    unit: '',
    default: 1,
    min: 0,
    max: 9999,
    step: 1,
    whole: true,
    when: (values) => staggered(values) && values.staggerBy === 'shuffle',
  },
  changes: { type: 'changes', label: 'change to the last', section: 'copies', default: [] },
} as const satisfies PropertyTable

export type CopiesValues = ValuesOf<typeof COPIES>
