import { type Ease, evenly } from '../../motion'
import { CORAL, carrying, DEEP, every, FOAM, figure, GLASS, LAMP, repeating, startKeys, startLayer } from './drawing'

export const arc = figure('arc', 'An arc that chases its tail', (u, frame, middle) => {
  const ring = { ...middle, width: 260 * u, height: 260 * u, fill: null, strokeWidth: 28 * u }
  const cycles = every(frame, 2)
  const along: Ease = 'cubic-bezier(0.5, 0, 0.5, 1)'
  return [
    startLayer('ellipse', 'Track', { ...ring, stroke: DEEP }),
    startLayer(
      'ellipse',
      'Arc',
      { ...ring, stroke: LAMP, cap: 'round', spanEnd: 0.06 },
      {
        // Both ends go round once, the one before the other; so it grows, and is eaten up.
        spanStart: carrying(startKeys(along, [0, -1], [1, 0]), cycles, 0.7),
        spanEnd: carrying(startKeys(along, [0, 0.06], [1, 1.06]), cycles),
        rotation: evenly(360, cycles),
      },
    ),
  ]
})

export const spots = figure('spots', 'Spots that light in turn', (u, frame, middle) => [
  startLayer('copies', 'Spots', { ...middle, arrangement: 'ring', count: 8, radius: 130 * u, stagger: 1 / 8 }, {}, [
    startLayer(
      'ellipse',
      'Spot',
      { x: 0, y: 0, width: 44 * u, height: 44 * u, fill: LAMP },
      {
        opacity: repeating(startKeys('ease-out', [0, 1], [0.55, 0.2, 'ease-in-out']), every(frame, 1)),
        scaleX: repeating(startKeys('ease-out', [0, 1], [0.55, 0.7, 'ease-in-out']), every(frame, 1)),
        scaleY: repeating(startKeys('ease-out', [0, 1], [0.55, 0.7, 'ease-in-out']), every(frame, 1)),
      },
    ),
  ]),
])

export const blob = figure('blob', 'A blob on a ring', (u, frame, middle) => {
  const cycles = every(frame, 2)
  // Half a turn growing, half a turn shrinking; it rests at neither end, so that there is no kink.
  const size = repeating(startKeys('ease-in-out', [0, 0.6], [0.5, 1.5]), cycles)
  return [
    startLayer('ellipse', 'Ring', {
      ...middle,
      width: 260 * u,
      height: 260 * u,
      fill: null,
      stroke: DEEP,
      strokeWidth: 10 * u,
    }),
    startLayer('group', 'Round the ring', middle, { rotation: evenly(360, cycles) }, [
      startLayer(
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
  const bounce = startKeys(
    'linear',
    [0, rest, up],
    [0.22, high, down],
    [0.44, rest, up],
    [0.56, again, down],
    [0.68, rest],
  )
  return [
    startLayer('rectangle', 'Line', {
      x: middle.x,
      y: middle.y + 92 * u,
      width: 340 * u,
      height: 8 * u,
      radius: 4 * u,
      fill: DEEP,
    }),
    startLayer(
      'copies',
      'Dots',
      { ...middle, arrangement: 'row', spacing: 'count', count: 3, span: 200 * u, stagger: -0.1 },
      {},
      [
        startLayer(
          'ellipse',
          'Dot',
          { x: 0, y: rest, width: 56 * u, height: 56 * u, fill: LAMP },
          { y: repeating(bounce, every(frame, 1.5)) },
        ),
      ],
    ),
  ]
})

export const bars = figure('bars', 'Bars that rise in a wave', (u, frame, middle) => [
  startLayer(
    'copies',
    'Bars',
    { ...middle, arrangement: 'row', spacing: 'count', count: 7, span: 300 * u, stagger: -1 / 7 },
    {},
    [
      startLayer(
        'rectangle',
        'Bar',
        { x: 0, y: 0, width: 30 * u, height: 150 * u, radius: 15 * u, fill: GLASS, stroke: null },
        { scaleY: repeating(startKeys('ease-in-out', [0, 0.4], [0.5, 1.3]), every(frame, 1.4)) },
      ),
    ],
  ),
])

export const rings = figure('rings', 'Rings that spread', (u, frame, middle) => {
  const cycles = every(frame, 3)
  // It goes back while it is not seen.
  const spread = repeating(startKeys('linear', [0, 0.05], [0.7, 1]), cycles)
  return [
    startLayer(
      'copies',
      'Rings',
      { ...middle, arrangement: 'row', spacing: 'count', count: 3, span: 0, stagger: 1 / 3 },
      {},
      [
        startLayer(
          'ellipse',
          'Ring',
          { x: 0, y: 0, width: 400 * u, height: 400 * u, fill: null, stroke: GLASS, strokeWidth: 10 * u },
          {
            scaleX: spread,
            scaleY: spread,
            opacity: repeating(startKeys('ease-in', [0, 0], [0.12, 1], [0.7, 0]), cycles),
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
      startLayer('group', 'Orbit', middle, { rotation: evenly(360, Number(times) * cycles) }, [
        startLayer('ellipse', 'Path', {
          x: 0,
          y: 0,
          width: 2 * Number(radius) * u,
          height: 2 * Number(radius) * u,
          fill: null,
          stroke: DEEP,
          strokeWidth: 4 * u,
        }),
        startLayer('ellipse', 'Body', {
          x: 0,
          y: -Number(radius) * u,
          width: Number(size) * u,
          height: Number(size) * u,
          fill: fill as string,
          stroke: null,
        }),
      ]),
    ),
    startLayer(
      'ellipse',
      'Lamp',
      { ...middle, width: 60 * u, height: 60 * u, fill: LAMP, stroke: null },
      { opacity: repeating(startKeys('ease-in-out', [0, 1], [0.5, 0.6]), 2 * cycles) },
    ),
  ]
})
