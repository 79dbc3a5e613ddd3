import type { Ease } from '../../motion'

/** A key of a track: where in the cycle, how much of what the track moves by, and the ease that leads on. */
type TrackKey = readonly [at: number, share: number, ease: Ease]

/** Motion of one property, relative to its current value. */
export interface Track {
  /** The property, or the first of these that the layer has. */
  readonly property: string | readonly string[]
  readonly after: 'repeat' | 'accumulate'
  readonly keys: readonly TrackKey[]
  /**
   * Amplitude that a share of 1 stands for: a multiple of the move's reach; one step of a round, whose number of steps
   * is the reach; or a fixed amount.
   */
  readonly by: { readonly far: number } | { readonly round: number } | { readonly fixed: number }
  /** How the motion combines with the current value: added, as a factor, or in its place. */
  readonly as: 'added' | 'times' | 'itself'
  /** Delay within the cycle, as a share of it. */
  readonly phase?: number
}

/** Reach of a move: its name and its first value, fixed or as a multiple of a measure of the layer. */
interface Far {
  readonly label: string
  readonly unit: '°' | 'px' | 'share' | 'steps' | 'frames'
  readonly begins: number
  readonly times?: 'width' | 'height'
  readonly least: number
  readonly most: number
  readonly whole?: boolean
}

/** A whole motion that closes, to be taken at once. */
export interface Move {
  readonly name: string
  readonly label: string
  readonly about: string
  /** Approximate duration of one cycle; rounded to whole cycles of the loop. */
  readonly seconds: number
  readonly far: Far | null
  readonly tracks?: readonly Track[]
  /** Something that is so for a few frames; how many is how far it goes. */
  readonly event?: { readonly property: string; readonly value: number; readonly at: readonly number[] }
  readonly tremble?: { readonly property: string; readonly detail: number }
  /** A further requirement besides the properties, worded for the middle of a sentence. */
  readonly needs?: { readonly property: string; readonly words: string }
}

/** A sine's half, by a curve of CSS (at most 0.6 % off). */
const SINE: Ease = 'cubic-bezier(0.37, 0, 0.63, 1)'
const wave = (property: string, far = 1, phase = 0): Track => ({
  property,
  after: 'repeat',
  keys: [
    [0, 1, SINE],
    [0.5, -1, SINE],
  ],
  by: { far },
  as: 'added',
  phase,
})
/** On and on at one speed. */
const evenly = (property: Track['property'], by: Track['by']): Track => ({
  property,
  after: 'accumulate',
  keys: [
    [0, 0, 'linear'],
    [1, 1, 'linear'],
  ],
  by,
  as: 'added',
})
/** Both scales by the same share. */
const scaled = (keys: Track['keys']): Track[] =>
  ['scaleX', 'scaleY'].map((property) => ({ property, after: 'repeat', keys, by: { far: 1 }, as: 'times' }))
const stepped = (rests: Ease, from: number, goes: Ease): Track => ({
  property: 'rotation',
  after: 'accumulate',
  keys: [
    [0, 0, rests],
    [from, 0, goes],
    [1, 1, 'linear'],
  ],
  by: { round: 360 },
  as: 'added',
})
const UP: Ease = 'cubic-bezier(0.2, 0.7, 0.4, 1)'
const DOWN: Ease = 'cubic-bezier(0.6, 0, 0.8, 0.4)'
const SOFT: Ease = 'cubic-bezier(0.5, 0, 0.5, 1)'

const steps = (begins: number): Far => ({
  label: 'steps a round',
  unit: 'steps',
  begins,
  least: 1,
  most: 60,
  whole: true,
})
const degrees = (label: string, begins: number): Far => ({ label, unit: '°', begins, least: -3600, most: 3600 })
const px = (label: string, times: number, of: 'width' | 'height' = 'height'): Far => ({
  label,
  unit: 'px',
  begins: times,
  times: of,
  least: -4000,
  most: 4000,
})
const share = (label: string, begins: number): Far => ({ label, unit: 'share', begins, least: 0, most: 1 })

export const MOVES: readonly Move[] = [
  {
    name: 'turn',
    label: 'Turn',
    about: 'goes round evenly',
    seconds: 2,
    far: steps(1),
    tracks: [evenly('rotation', { round: 360 })],
  },
  {
    name: 'turn and rest',
    label: 'Turn and rest',
    about: 'a part of a turn, then a rest',
    seconds: 1,
    far: steps(4),
    tracks: [stepped('linear', 0.4, SOFT)],
  },
  {
    name: 'tick',
    label: 'Tick',
    about: 'one step after the other, a little past each',
    seconds: 0.5,
    far: steps(12),
    tracks: [stepped('hold', 0.6, 'cubic-bezier(0.5, 0, 0.2, 1.3)')],
  },
  {
    name: 'swing',
    label: 'Swing',
    about: 'to and fro about its pivot',
    seconds: 1.6,
    far: degrees('how far', 22),
    tracks: [wave('rotation')],
  },
  {
    name: 'bob',
    label: 'Bob',
    about: 'up and down, softly',
    seconds: 2,
    far: px('how far', 0.25),
    tracks: [wave('y')],
  },
  {
    name: 'bounce',
    label: 'Bounce',
    about: 'jumps, and once again less high',
    seconds: 1.5,
    far: px('how high', 1),
    tracks: [
      {
        property: 'y',
        after: 'repeat',
        keys: [
          [0, 0, UP],
          [0.22, -1, DOWN],
          [0.44, 0, UP],
          [0.56, -0.3, DOWN],
          [0.68, 0, 'linear'],
        ],
        by: { far: 1 },
        as: 'added',
      },
    ],
  },
  {
    name: 'pulse',
    label: 'Pulse',
    about: 'grows at once and falls back',
    seconds: 1,
    far: share('how much', 0.2),
    tracks: scaled([
      [0, 0, 'ease-out'],
      [0.15, 1, 'ease-in-out'],
      [0.5, 0, 'linear'],
    ]),
  },
  {
    name: 'breathe',
    label: 'Breathe',
    about: 'grows and shrinks, slowly',
    seconds: 4,
    far: share('how much', 0.08),
    tracks: scaled([
      [0, 0, SINE],
      [0.5, 1, SINE],
    ]),
  },
  {
    name: 'blink',
    label: 'Blink',
    about: 'is gone for a few frames',
    seconds: 2,
    far: { label: 'for', unit: 'frames', begins: 3, least: 1, most: 600, whole: true },
    event: { property: 'opacity', value: 0, at: [0.5] },
  },
  {
    name: 'shimmer',
    label: 'Shimmer',
    about: 'its light trembles',
    seconds: 2,
    far: share('how much', 0.25),
    tremble: { property: 'opacity', detail: 8 },
  },
  {
    name: 'chase',
    label: 'Chase',
    about: 'both ends of its stroke run after each other',
    seconds: 2,
    far: null,
    needs: { property: 'stroke', words: 'a stroke' },
    tracks: [
      {
        property: 'spanStart',
        after: 'accumulate',
        keys: [
          [0, -1, SOFT],
          [1, 0, SOFT],
        ],
        by: { fixed: 1 },
        as: 'itself',
        phase: 0.7,
      },
      {
        property: 'spanEnd',
        after: 'accumulate',
        keys: [
          [0, 0.06, SOFT],
          [1, 1.06, SOFT],
        ],
        by: { fixed: 1 },
        as: 'itself',
      },
      evenly('rotation', { fixed: 360 }),
    ],
  },
  {
    name: 'orbit',
    label: 'Orbit',
    about: 'round the place where it stands',
    seconds: 3,
    far: px('how far', 1, 'width'),
    tracks: [wave('x'), wave('y', 1, 0.75)],
  },
  {
    name: 'sway',
    label: 'Sway',
    about: 'leans and drifts, as in a light wind',
    seconds: 4,
    far: px('how far', 0.15, 'width'),
    tracks: [wave('x'), { ...wave('rotation'), by: { fixed: 4 }, phase: 0.85 }],
  },
  {
    name: 'drift',
    label: 'Drift by a pitch',
    about: 'moves on by one place, and looks the same',
    seconds: 1,
    far: null,
    tracks: [evenly(['shift', 'travel', 'driftX'], { fixed: 1 })],
  },
]
