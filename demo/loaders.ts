import { fraction } from '../src/core/clock'
import type { Loop } from '../src/core/document'
import { chainAround, newLoop } from '../src/core/edit'
import { CORAL, CREAM, carry, DEEP, demoLoop, GLASS, keys, LAMP, layer, repeat, SEA_INK, withPlainIds } from './parts'

/** An arc that grows and is eaten up while it turns: both ends carry on by a whole turn, at different paces. */
export function beaconLoader(): Loop {
  const loop = newLoop(
    {
      name: 'Beacon loader',
      kind: 'loader',
      width: 480,
      height: 480,
      background: SEA_INK,
      rate: fraction(30),
      length: 60,
    },
    'beacon-loader',
  )
  const ring = { x: 240, y: 240, width: 300, height: 300, fill: null, strokeWidth: 30 }
  return {
    ...loop,
    layers: [
      layer('ellipse', 'beacon-track', 'Track', { ...ring, stroke: DEEP }),
      layer(
        'ellipse',
        'beacon-arc',
        'Arc',
        { ...ring, stroke: LAMP, cap: 'round', spanEnd: 0.06 },
        {
          spanStart: { ...carry(keys('cubic-bezier(0.5, 0, 0.5, 1)', [0, -1], [1, 0])), phase: 0.7 },
          spanEnd: carry(keys('cubic-bezier(0.5, 0, 0.5, 1)', [0, 0.06], [1, 1.06])),
          rotation: carry(keys('linear', [0, 0], [1, 360])),
        },
      ),
      layer(
        'ellipse',
        'beacon-lamp',
        'Lamp',
        { x: 240, y: 240, width: 84, height: 84, fill: CREAM },
        {
          opacity: repeat(keys('ease-in-out', [0, 1], [0.5, 0.35])),
        },
      ),
    ],
  }
}

/** Five bobbing dots on a waterline, staggered, with a small second bounce. */
export function boardingBuoys(): Loop {
  const loop = newLoop(
    {
      name: 'Boarding buoys',
      kind: 'loader',
      width: 480,
      height: 240,
      background: null,
      rate: fraction(25),
      length: 50,
    },
    'boarding-buoys',
  )
  const colours = [LAMP, CORAL, CREAM, GLASS, LAMP]
  const bob = (stagger: number) =>
    repeat(
      keys(
        'ease-in-out',
        [0, 150, 'cubic-bezier(0.2, 0.7, 0.4, 1)'],
        [0.22, 78, 'cubic-bezier(0.6, 0, 0.8, 0.4)'],
        [0.44, 150, 'cubic-bezier(0.2, 0.7, 0.4, 1)'],
        [0.56, 128, 'cubic-bezier(0.6, 0, 0.8, 0.4)'],
        [0.68, 150, 'linear'],
        [0.84, 156, 'ease-in-out'],
      ),
      (1 - stagger) % 1,
    )
  return {
    ...loop,
    layers: [
      layer('rectangle', 'buoys-water', 'Waterline', { x: 240, y: 192, width: 400, height: 10, radius: 5, fill: DEEP }),
      ...colours.map((fill, i) =>
        layer(
          'ellipse',
          `buoy-${i + 1}`,
          `Buoy ${i + 1}`,
          { x: 80 + 80 * i, y: 150, width: 44, height: 44, fill },
          {
            y: bob(0.09 * i),
          },
        ),
      ),
    ],
  }
}

/** One beam of the light: a wedge that fades outwards. */
const beam = (id: string, rotation: number) =>
  layer('path', id, 'Beam', {
    path: 'M0 -14L0 14L0 14L210 62L210 -62Z',
    x: 0,
    rotation,
    fill: LAMP,
    fillKind: 'linear',
    fillAngle: 0,
    fillTo: 'rgb(246 184 75 / 0)',
    fillStart: 0.05,
    fillEnd: 0.95,
  })

/** An eight-panel lens, a two-beam light and a slow cloud: three speeds that come home together, by symmetry. */
export function lensSweep(): Loop {
  const loop = demoLoop('lens-sweep', 'Lens sweep', {
    width: 480,
    height: 360,
    background: SEA_INK,
    rate: fraction(25),
    length: 100,
  })
  return {
    ...loop,
    palette: [
      { name: 'lamp', colour: LAMP },
      { name: 'glass', colour: GLASS },
    ],
    layers: [
      {
        ...layer(
          'group',
          'lens-beams',
          'Two beams',
          { x: 240, y: 180 },
          { rotation: carry(keys('linear', [0, 0], [1, 180])) },
        ),
        layers: [beam('lens-beam-1', 0), beam('lens-beam-2', 180)],
      },
      {
        ...layer(
          'copies',
          'lens-cloud',
          'Slow cloud',
          { x: 240, y: 74, arrangement: 'row', spacing: 'pitch', count: 5, pitch: 200, opacity: 0.85 },
          { shift: carry(keys('linear', [0, 0], [1, 1])) },
        ),
        layers: [
          layer('ellipse', 'lens-cloud-1', 'Puff', { x: -34, y: 8, width: 90, height: 34, fill: DEEP }),
          layer('ellipse', 'lens-cloud-2', 'Puff', { x: 12, y: -4, width: 84, height: 46, fill: DEEP }),
          layer('ellipse', 'lens-cloud-3', 'Puff', { x: 52, y: 10, width: 70, height: 28, fill: DEEP }),
        ],
      },
      layer('ellipse', 'lens-case', 'Case', {
        x: 240,
        y: 180,
        width: 176,
        height: 176,
        fill: '#0f2e3f',
        stroke: CREAM,
        strokeWidth: 5,
      }),
      {
        ...layer(
          'copies',
          'lens-panels',
          'Eight panels',
          { x: 240, y: 180, arrangement: 'ring', spacing: 'count', count: 8, radius: 62 },
          { rotation: carry(keys('linear', [0, 0], [1, -90])) },
        ),
        layers: [
          layer('rectangle', 'lens-panel', 'Panel', {
            x: 0,
            y: 0,
            width: 34,
            height: 22,
            radius: 4,
            fill: 'var(--glass)',
            opacity: 0.9,
          }),
        ],
      },
      layer('ellipse', 'lens-lamp', 'Lamp', {
        x: 240,
        y: 180,
        width: 54,
        height: 54,
        fill: 'var(--lamp)',
        glowColour: LAMP,
        glowBlur: 14,
      }),
    ],
  }
}

/** A drum that advances one mark at a time and holds: stepped, accumulating. */
export function tideGauge(): Loop {
  const loop = demoLoop('tide-gauge', 'Tide gauge', {
    width: 320,
    height: 320,
    background: CREAM,
    rate: fraction(25),
    length: 75,
  })
  const stepped = {
    ...carry(keys('hold', [0, 0], [0.62, 0, 'cubic-bezier(0.5, 0, 0.2, 1.3)'], [1, 1])),
    period: { cycles: 5 },
  }
  return {
    ...loop,
    layers: [
      layer('rectangle', 'tide-plate', 'Plate', { x: 160, y: 160, width: 210, height: 260, radius: 24, fill: DEEP }),
      {
        ...layer('group', 'tide-window', 'Window', { mask: 'shape' }),
        layers: [
          layer('rectangle', 'tide-paper', 'Paper', {
            x: 160,
            y: 160,
            width: 150,
            height: 210,
            radius: 0,
            fill: '#0f2e3f',
          }),
          {
            ...layer(
              'copies',
              'tide-marks',
              'Marks',
              { x: 160, y: 160, arrangement: 'row', spacing: 'pitch', count: 11, pitch: 36, direction: -90 },
              { shift: stepped },
            ),
            layers: [
              layer('line', 'tide-mark', 'Mark', { x: -28, y: 0, length: 62, stroke: CREAM, strokeWidth: 5 }),
              layer('line', 'tide-half', 'Half mark', { x: -44, y: 18, length: 30, stroke: GLASS, strokeWidth: 3 }),
            ],
          },
          layer('rectangle', 'tide-glass', 'Glass', { x: 160, y: 160, width: 150, height: 210, radius: 12 }),
        ],
      },
      layer(
        'polygon',
        'tide-pointer',
        'Pointer',
        { x: 222, y: 160, radius: 17, corners: 3, rotation: -90, fill: CORAL },
        {
          x: {
            ...repeat(keys('ease-in-out', [0, 222], [0.62, 222, 'ease-out'], [0.8, 228, 'ease-in'])),
            period: { cycles: 5 },
          },
        },
      ),
    ],
  }
}

/** Radius at which the chain of the winch runs, and the pitch of its links: a sixth of a turn is three links. */
const WINCH = { radius: 72, drum: 66.5, pitch: (72 * Math.PI) / 9 }

/** Links running round two drums that turn with them: one sixth of a turn is three links. */
export function winchChain(): Loop {
  const loop = demoLoop('winch-chain', 'Winch chain', {
    width: 520,
    height: 280,
    background: SEA_INK,
    rate: fraction(30),
    length: 36,
  })
  const apart = 10 * WINCH.pitch
  const drums = [-1, 1].map((side) => ({
    x: 260 + (side * apart) / 2,
    y: 140,
    id: side < 0 ? 'winch-left' : 'winch-right',
  }))
  const round = drums.map(({ id, x, y }) =>
    layer('ellipse', id, 'Drum', {
      x,
      y,
      width: 2 * WINCH.drum,
      height: 2 * WINCH.drum,
      fill: DEEP,
      stroke: CREAM,
      strokeWidth: 4,
    }),
  )
  const chained = chainAround(
    { ...loop, layers: round },
    drums.map(({ id }) => id),
    0,
  )
  if (!chained) throw new Error('two drums can be run round')
  const spokes = drums.map(({ id, x, y }) => ({
    ...layer(
      'copies',
      `${id}-spokes`,
      'Spokes',
      { x, y, arrangement: 'ring', spacing: 'count', count: 6, radius: 34 },
      { rotation: carry(keys('linear', [0, 0], [1, 60])) },
    ),
    layers: [layer('rectangle', `${id}-spoke`, 'Spoke', { x: 0, y: 0, width: 12, height: 44, radius: 6, fill: GLASS })],
  }))
  const [chain] = chained.loop.layers.slice(-1)
  if (!chain) throw new Error('the chain is the frontmost layer')
  return withPlainIds({
    ...loop,
    layers: [
      ...round,
      ...spokes,
      {
        ...chain,
        values: { ...chain.values, pitch: WINCH.pitch },
        motions: { shift: carry(keys('linear', [0, 0], [1, 3])) },
        layers: [
          layer('rectangle', 'winch-link', 'Link', {
            x: 0,
            y: 0,
            width: 30,
            height: 16,
            radius: 8,
            fill: null,
            stroke: LAMP,
            strokeWidth: 5,
          }),
        ],
      },
    ],
  })
}
