import type { Layer, Loop } from '../../document'
import { evenly, type Motion } from '../../motion'
import { beltAround } from '../arrange'
import { newLoop } from '../edit'
import { CORAL, carrying, DEEP, every, FOAM, figure, GLASS, LAMP, repeating, startKeys, startLayer } from './drawing'

export const bands = figure('bands', 'Upright bands', (u, frame, middle) => {
  const pitch = 60 * u
  const count = Math.ceil(frame.width / pitch) + 3
  return [
    startLayer(
      'copies',
      'Bands',
      { ...middle, arrangement: 'row', spacing: 'pitch', count, pitch },
      { shift: evenly(1, every(frame, 1)) },
      [
        startLayer('rectangle', 'Band', {
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
  startLayer(
    'line',
    name,
    { x: x + length / 2, y, length, pivotX: -length / 2, rotation: -90, stroke, strokeWidth, cap: 'round' },
    { rotation },
  )

export const gauge = figure('gauge', 'A gauge: one ticks, one is slow', (u, frame, middle) => {
  const ticks = every(frame, 0.5)
  const step = startKeys('hold', [0, -90], [0.6, -90, 'cubic-bezier(0.5, 0, 0.2, 1.3)'], [1, -60])
  return [
    startLayer('ellipse', 'Face', {
      ...middle,
      width: 340 * u,
      height: 340 * u,
      fill: DEEP,
      stroke: FOAM,
      strokeWidth: 8 * u,
    }),
    startLayer('copies', 'Marks', { ...middle, arrangement: 'ring', count: 12, radius: 140 * u }, {}, [
      startLayer('rectangle', 'Mark', { x: 0, y: 0, width: 6 * u, height: 22 * u, fill: FOAM, stroke: null }),
    ]),
    pointer('Slow pointer', 90 * u, 12 * u, GLASS, middle, {
      ...evenly(360),
      keys: startKeys('linear', [0, -90], [1, 270]),
    }),
    // Whole rounds of twelve ticks come home; so do fewer, where a loop is too short for a round.
    pointer('Ticking pointer', 130 * u, 7 * u, LAMP, middle, {
      ...carrying(step, Math.max(12, 12 * Math.round(ticks / 12))),
    }),
    startLayer('ellipse', 'Hub', { ...middle, width: 26 * u, height: 26 * u, fill: FOAM }),
  ]
})

export const vanes = figure('vanes', 'A wind gauge of four vanes', (u, frame, middle) => [
  startLayer('rectangle', 'Mast', {
    x: middle.x,
    y: middle.y + 110 * u,
    width: 14 * u,
    height: 220 * u,
    fill: DEEP,
    stroke: null,
  }),
  startLayer(
    'copies',
    'Vanes',
    { ...middle, arrangement: 'ring', count: 4, radius: 80 * u },
    { rotation: evenly(90, every(frame, 0.5)) },
    [
      startLayer('group', 'Vane', { x: 0, y: 0 }, {}, [
        startLayer('rectangle', 'Arm', { x: 0, y: 15 * u, width: 8 * u, height: 130 * u, fill: FOAM, stroke: null }),
        startLayer('ellipse', 'Cup', {
          x: 14 * u,
          y: -45 * u,
          width: 64 * u,
          height: 52 * u,
          fill: CORAL,
          stroke: null,
        }),
      ]),
    ],
  ),
  startLayer('ellipse', 'Hub', { ...middle, width: 36 * u, height: 36 * u, fill: FOAM }),
])

const BLANK = {
  name: 'Belt',
  kind: 'loader',
  background: null,
  rate: { num: 30, den: 1 },
  length: 30,
} as const satisfies Partial<Loop>

export const workingBelt = figure('belt', 'A belt round two drums', (u, frame, middle) => {
  const thickness = 16 * u
  const radius = 72 * u
  // Eighteen marks go round a drum, ten lie between the drums: thirty-eight in all, which meet.
  const pitch = (Math.PI * radius) / 9
  const drums = [-1, 1].map((side) =>
    startLayer('ellipse', 'Drum', {
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
    startLayer(
      'copies',
      'Spokes',
      { x: Number(values.x), y: middle.y, arrangement: 'ring', count: 6, radius: 34 * u },
      { rotation: evenly(60, cycles) },
      [
        startLayer('rectangle', 'Spoke', {
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

export const swings = figure('swings', 'Weights that swing, each in its time', (u, frame, middle) => {
  const first = Math.max(2, every(frame, 1.6))
  const length = 220 * u
  return [0, 1, 2, 3, 4].map((n) => {
    const x = middle.x + (n - 2) * 70 * u
    const top = middle.y - 150 * u
    return startLayer(
      'group',
      `Weight ${n + 1}`,
      { x, y: top },
      { rotation: repeating(startKeys('ease-in-out', [0, 22], [0.5, -22]), first + n) },
      [
        startLayer('line', 'Rope', { x: 0, y: length / 2, length, rotation: 90, stroke: FOAM, strokeWidth: 4 * u }),
        startLayer('ellipse', 'Ball', {
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
