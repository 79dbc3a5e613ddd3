import { type Ease, evenly } from '../../motion'
import { CORAL, carried, DEEP, every, FOAM, figure, GLASS, keys, LAMP, layer, repeated } from './drawing'

export const arc = figure('arc', 'An arc that chases its tail', (u, frame, middle) => {
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

export const spots = figure('spots', 'Spots that light in turn', (u, frame, middle) => [
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

export const blob = figure('blob', 'A blob on a ring', (u, frame, middle) => {
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

export const dots = figure('dots', 'Dots that bounce in turn', (u, frame, middle) => {
  const rest = 60 * u
  const high = -70 * u
  const again = 25 * u
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

export const bars = figure('bars', 'Bars that rise in a wave', (u, frame, middle) => [
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

export const rings = figure('rings', 'Rings that spread', (u, frame, middle) => {
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

export const orbits = figure('orbits', 'Three round a lamp', (u, frame, middle) => {
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
