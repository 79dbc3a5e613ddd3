import { namedColour } from '../../colour'
import type { Layer, Loop } from '../../document'
import type { Values } from '../../layers'
import { type Ease, evenly, type Key, type Motion } from '../../motion'
import { beltAround } from '../arrange'
import { newLayer, newLoop } from '../edit'
import type { Frame, Start } from './start'

/** The colours that the figures have, by name, so that one change colours all of them. */
export const FIGURE_PALETTE = [
  { name: 'lamp', colour: '#f6b84b' },
  { name: 'foam', colour: '#f7ead0' },
  { name: 'coral', colour: '#ef7f5f' },
  { name: 'glass', colour: '#79c9b4' },
  { name: 'deep', colour: '#15485a' },
]
const [LAMP, FOAM, CORAL, GLASS, DEEP] = FIGURE_PALETTE.map(({ name }) => namedColour(name)) as [
  string,
  string,
  string,
  string,
  string,
]

const keys = (ease: Ease, ...places: readonly (readonly [at: number, value: number, ease?: Ease])[]): Key[] =>
  places.map(([at, value, own]) => ({ at, value, ease: own ?? ease }))
const repeated = (all: readonly Key[], cycles = 1, phase = 0): Motion => ({
  keys: all,
  after: 'repeat',
  period: { cycles },
  phase,
})
const carried = (all: readonly Key[], cycles = 1, phase = 0): Motion => ({
  ...repeated(all, cycles, phase),
  after: 'accumulate',
})

/** As many cycles as come nearest to so many seconds each. */
const every = (frame: Frame, seconds: number): number => Math.max(1, Math.round(frame.seconds / seconds))

type Motions = Readonly<Record<string, Motion>>
const layer = (kind: string, name: string, values: Values, motions: Motions = {}, held?: readonly Layer[]): Layer => ({
  ...newLayer(kind, name, values),
  motions,
  ...(held && { layers: held }),
})
const middleOf = ({ width, height }: Frame) => ({ x: width / 2, y: height / 2 })
/** A 480th of the shorter side. */
const unitOf = ({ width, height }: Frame): number => Math.min(width, height) / 480

/** A start that is drawn about the middle of the frame, in units of a 480th of its shorter side. */
const figure = (
  name: string,
  label: string,
  layers: (u: number, frame: Frame, middle: { readonly x: number; readonly y: number }) => readonly Layer[],
): Start => ({
  name,
  label,
  palette: FIGURE_PALETTE,
  layers: (frame) => layers(unitOf(frame), frame, middleOf(frame)),
})

const arc = figure('arc', 'An arc that chases its tail', (u, frame, middle) => {
  const ring = { ...middle, width: 260 * u, height: 260 * u, fill: null, strokeWidth: 28 * u }
  const cycles = every(frame, 2)
  const along: Ease = 'cubic-bezier(0.5, 0, 0.5, 1)'
  return [
    layer('ellipse', 'Track', { ...ring, stroke: DEEP }),
    layer(
      'ellipse',
      'Arc',
      { ...ring, stroke: LAMP, cap: 'round', spanEnd: 0.06 },
      {
        // Both ends go round once, the one before the other; so it grows, and is eaten up.
        spanStart: carried(keys(along, [0, -1], [1, 0]), cycles, 0.7),
        spanEnd: carried(keys(along, [0, 0.06], [1, 1.06]), cycles),
        rotation: evenly(360, cycles),
      },
    ),
  ]
})

const spots = figure('spots', 'Spots that light in turn', (u, frame, middle) => [
  layer('copies', 'Spots', { ...middle, arrangement: 'ring', count: 8, radius: 130 * u, stagger: 1 / 8 }, {}, [
    layer(
      'ellipse',
      'Spot',
      { x: 0, y: 0, width: 44 * u, height: 44 * u, fill: LAMP },
      {
        opacity: repeated(keys('ease-out', [0, 1], [0.55, 0.2, 'ease-in-out']), every(frame, 1)),
        scaleX: repeated(keys('ease-out', [0, 1], [0.55, 0.7, 'ease-in-out']), every(frame, 1)),
        scaleY: repeated(keys('ease-out', [0, 1], [0.55, 0.7, 'ease-in-out']), every(frame, 1)),
      },
    ),
  ]),
])

const blob = figure('blob', 'A blob on a ring', (u, frame, middle) => {
  const cycles = every(frame, 2)
  // Half a turn growing, half a turn shrinking; it rests at neither end, so that there is no kink.
  const size = repeated(keys('ease-in-out', [0, 0.6], [0.5, 1.5]), cycles)
  return [
    layer('ellipse', 'Ring', {
      ...middle,
      width: 260 * u,
      height: 260 * u,
      fill: null,
      stroke: DEEP,
      strokeWidth: 10 * u,
    }),
    layer('group', 'Round the ring', middle, { rotation: evenly(360, cycles) }, [
      layer(
        'ellipse',
        'Blob',
        { x: 0, y: -130 * u, width: 64 * u, height: 64 * u, fill: CORAL },
        {
          scaleX: size,
          scaleY: size,
        },
      ),
    ]),
  ]
})

const bands = figure('bands', 'Upright bands', (u, frame, middle) => {
  const pitch = 60 * u
  const count = Math.ceil(frame.width / pitch) + 3
  return [
    layer(
      'copies',
      'Bands',
      { ...middle, arrangement: 'row', spacing: 'pitch', count, pitch },
      { shift: evenly(1, every(frame, 1)) },
      [
        layer('rectangle', 'Band', {
          x: 0,
          y: 0,
          width: pitch / 2,
          height: frame.height + 4,
          fill: DEEP,
          stroke: null,
        }),
      ],
    ),
  ]
})

/** A pointer from the middle of a dial. */
const pointer = (
  name: string,
  length: number,
  strokeWidth: number,
  stroke: string,
  { x, y }: { readonly x: number; readonly y: number },
  rotation: Motion,
): Layer =>
  layer(
    'line',
    name,
    { x: x + length / 2, y, length, pivotX: -length / 2, rotation: -90, stroke, strokeWidth, cap: 'round' },
    { rotation },
  )

const gauge = figure('gauge', 'A gauge: one ticks, one is slow', (u, frame, middle) => {
  const ticks = every(frame, 0.5)
  const step = keys('hold', [0, -90], [0.6, -90, 'cubic-bezier(0.5, 0, 0.2, 1.3)'], [1, -60])
  return [
    layer('ellipse', 'Face', {
      ...middle,
      width: 340 * u,
      height: 340 * u,
      fill: DEEP,
      stroke: FOAM,
      strokeWidth: 8 * u,
    }),
    layer('copies', 'Marks', { ...middle, arrangement: 'ring', count: 12, radius: 140 * u }, {}, [
      layer('rectangle', 'Mark', { x: 0, y: 0, width: 6 * u, height: 22 * u, fill: FOAM, stroke: null }),
    ]),
    pointer('Slow pointer', 90 * u, 12 * u, GLASS, middle, {
      ...evenly(360),
      keys: keys('linear', [0, -90], [1, 270]),
    }),
    // Whole rounds of twelve ticks come home; so do fewer, where a loop is too short for a round.
    pointer('Ticking pointer', 130 * u, 7 * u, LAMP, middle, {
      ...carried(step, Math.max(12, 12 * Math.round(ticks / 12))),
    }),
    layer('ellipse', 'Hub', { ...middle, width: 26 * u, height: 26 * u, fill: FOAM }),
  ]
})

const dots = figure('dots', 'Dots that bounce in turn', (u, frame, middle) => {
  const [rest, high, again] = [60 * u, -70 * u, 25 * u]
  const [up, down]: [Ease, Ease] = ['cubic-bezier(0.2, 0.7, 0.4, 1)', 'cubic-bezier(0.6, 0, 0.8, 0.4)']
  const bounce = keys('linear', [0, rest, up], [0.22, high, down], [0.44, rest, up], [0.56, again, down], [0.68, rest])
  return [
    layer('rectangle', 'Line', {
      x: middle.x,
      y: middle.y + 92 * u,
      width: 340 * u,
      height: 8 * u,
      radius: 4 * u,
      fill: DEEP,
    }),
    layer(
      'copies',
      'Dots',
      { ...middle, arrangement: 'row', spacing: 'count', count: 3, span: 200 * u, stagger: -0.1 },
      {},
      [
        layer(
          'ellipse',
          'Dot',
          { x: 0, y: rest, width: 56 * u, height: 56 * u, fill: LAMP },
          { y: repeated(bounce, every(frame, 1.5)) },
        ),
      ],
    ),
  ]
})

const belt = figure('belt', 'A belt round two drums', (u, frame, middle) => {
  const thickness = 16 * u
  const radius = 72 * u
  // Eighteen marks go round a drum, ten lie between the drums: thirty-eight in all, which meet.
  const pitch = (Math.PI * radius) / 9
  const drums = [-1, 1].map((side) =>
    layer('ellipse', 'Drum', {
      x: middle.x + side * 5 * pitch,
      y: middle.y,
      width: 2 * (radius - thickness / 2),
      height: 2 * (radius - thickness / 2),
      fill: DEEP,
      stroke: null,
    }),
  )
  const holder = { ...newLoop({ ...BLANK, width: frame.width, height: frame.height }), layers: drums }
  const round = beltAround(
    holder,
    drums.map(({ id }) => id),
    0,
  )
  const made = round?.loop.layers.at(-1)
  const cycles = every(frame, 1.2)
  const spokes = drums.map(({ values }) =>
    layer(
      'copies',
      'Spokes',
      { x: Number(values.x), y: middle.y, arrangement: 'ring', count: 6, radius: 34 * u },
      { rotation: evenly(60, cycles) },
      [
        layer('rectangle', 'Spoke', {
          x: 0,
          y: 0,
          width: 12 * u,
          height: 40 * u,
          radius: 6 * u,
          fill: GLASS,
          stroke: null,
        }),
      ],
    ),
  )
  return [
    ...drums,
    ...spokes,
    ...(made
      ? [
          {
            ...made,
            values: { ...made.values, thickness, pitch, colour: DEEP, markColour: LAMP },
            motions: { travel: evenly(3, cycles) },
          },
        ]
      : []),
  ]
})

const vanes = figure('vanes', 'A wind gauge of four vanes', (u, frame, middle) => [
  layer('rectangle', 'Mast', {
    x: middle.x,
    y: middle.y + 110 * u,
    width: 14 * u,
    height: 220 * u,
    fill: DEEP,
    stroke: null,
  }),
  layer(
    'copies',
    'Vanes',
    { ...middle, arrangement: 'ring', count: 4, radius: 80 * u },
    { rotation: evenly(90, every(frame, 0.5)) },
    [
      layer('group', 'Vane', { x: 0, y: 0 }, {}, [
        layer('rectangle', 'Arm', { x: 0, y: 15 * u, width: 8 * u, height: 130 * u, fill: FOAM, stroke: null }),
        layer('ellipse', 'Cup', { x: 14 * u, y: -45 * u, width: 64 * u, height: 52 * u, fill: CORAL, stroke: null }),
      ]),
    ],
  ),
  layer('ellipse', 'Hub', { ...middle, width: 36 * u, height: 36 * u, fill: FOAM }),
])

const bars = figure('bars', 'Bars that rise in a wave', (u, frame, middle) => [
  layer(
    'copies',
    'Bars',
    { ...middle, arrangement: 'row', spacing: 'count', count: 7, span: 300 * u, stagger: -1 / 7 },
    {},
    [
      layer(
        'rectangle',
        'Bar',
        { x: 0, y: 0, width: 30 * u, height: 150 * u, radius: 15 * u, fill: GLASS, stroke: null },
        { scaleY: repeated(keys('ease-in-out', [0, 0.4], [0.5, 1.3]), every(frame, 1.4)) },
      ),
    ],
  ),
])

const rings = figure('rings', 'Rings that spread', (u, frame, middle) => {
  const cycles = every(frame, 3)
  // It goes back while it is not seen.
  const spread = repeated(keys('linear', [0, 0.05], [0.7, 1]), cycles)
  return [
    layer(
      'copies',
      'Rings',
      { ...middle, arrangement: 'row', spacing: 'count', count: 3, span: 0, stagger: 1 / 3 },
      {},
      [
        layer(
          'ellipse',
          'Ring',
          { x: 0, y: 0, width: 400 * u, height: 400 * u, fill: null, stroke: GLASS, strokeWidth: 10 * u },
          {
            scaleX: spread,
            scaleY: spread,
            opacity: repeated(keys('ease-in', [0, 0], [0.12, 1], [0.7, 0]), cycles),
          },
        ),
      ],
    ),
  ]
})

const swings = figure('swings', 'Weights that swing, each in its time', (u, frame, middle) => {
  const first = Math.max(2, every(frame, 1.6))
  const length = 220 * u
  return [0, 1, 2, 3, 4].map((n) => {
    const x = middle.x + (n - 2) * 70 * u
    const top = middle.y - 150 * u
    return layer(
      'group',
      `Weight ${n + 1}`,
      { x, y: top },
      { rotation: repeated(keys('ease-in-out', [0, 22], [0.5, -22]), first + n) },
      [
        layer('line', 'Rope', { x: 0, y: length / 2, length, rotation: 90, stroke: FOAM, strokeWidth: 4 * u }),
        layer('ellipse', 'Ball', {
          x: 0,
          y: length,
          width: 52 * u,
          height: 52 * u,
          fill: n % 2 === 0 ? LAMP : GLASS,
          stroke: null,
        }),
      ],
    )
  })
})

const orbits = figure('orbits', 'Three round a lamp', (u, frame, middle) => {
  const cycles = every(frame, 4)
  return [
    ...[
      [80, 3, CORAL, 30],
      [130, 2, GLASS, 38],
      [185, 1, FOAM, 46],
    ].map(([radius = 0, times = 1, fill, size = 0]) =>
      layer('group', 'Orbit', middle, { rotation: evenly(360, Number(times) * cycles) }, [
        layer('ellipse', 'Path', {
          x: 0,
          y: 0,
          width: 2 * Number(radius) * u,
          height: 2 * Number(radius) * u,
          fill: null,
          stroke: DEEP,
          strokeWidth: 4 * u,
        }),
        layer('ellipse', 'Body', {
          x: 0,
          y: -Number(radius) * u,
          width: Number(size) * u,
          height: Number(size) * u,
          fill: fill as string,
          stroke: null,
        }),
      ]),
    ),
    layer(
      'ellipse',
      'Lamp',
      { ...middle, width: 60 * u, height: 60 * u, fill: LAMP, stroke: null },
      { opacity: repeated(keys('ease-in-out', [0, 1], [0.5, 0.6]), 2 * cycles) },
    ),
  ]
})

const BLANK = {
  name: 'Belt',
  kind: 'loader',
  background: null,
  rate: { num: 30, den: 1 },
  length: 30,
} as const satisfies Partial<Loop>

/** Loops that wait, to begin with. */
export const FIGURES: readonly Start[] = [
  arc,
  spots,
  blob,
  dots,
  bars,
  rings,
  bands,
  gauge,
  vanes,
  belt,
  swings,
  orbits,
]
