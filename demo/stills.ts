import { fraction } from '../src/core/clock'
import type { Layer, Loop } from '../src/core/document'
import { newLayer } from '../src/core/edit'
import type { Values } from '../src/core/layers'
import { seeded } from '../src/core/random'
import { demoLoop, layer } from './parts'

/**
 * Stills as a photographer at Saltmere Light would have taken them, drawn as loops of a single frame: with uneven light, depth, haze, grain and
 * the fall-off of a lens. `npm run demo:make` draws them to JPEG files.
 */
const WIDTH = 1280
const HEIGHT = 720
const frame = { x: WIDTH / 2, y: HEIGHT / 2, width: WIDTH, height: HEIGHT }
const scene = (id: string, name: string, background: string, layers: readonly Layer[]): Loop => ({
  ...demoLoop(id, name, {
    kind: 'cinemagraph',
    width: WIDTH,
    height: HEIGHT,
    background,
    rate: fraction(25),
    length: 1,
  }),
  layers,
})
let count = 0
const id = (name: string) => `still-${name}-${count++}`
const part = (kind: string, name: string, values: Values): Layer => layer(kind, id(name), name, values)
const group = (name: string, layers: readonly Layer[], values: Values = {}): Layer => ({
  ...newLayer('group', name, values, id(name)),
  layers,
})
/** A gradient from above to below. */
const sweep = (name: string, y: number, height: number, fill: string, fillTo: string, more: Values = {}): Layer =>
  part('rectangle', name, {
    x: WIDTH / 2,
    y: y + height / 2,
    width: WIDTH,
    height,
    radius: 0,
    fill,
    fillTo,
    fillKind: 'linear',
    fillAngle: 90,
    ...more,
  })
const shape = (name: string, path: string, values: Values): Layer =>
  part('path', name, { x: 0, y: 0, stroke: null, ...values, path })
const glow = (name: string, x: number, y: number, size: number, colour: string, values: Values = {}): Layer =>
  part('ellipse', name, {
    x,
    y,
    width: size,
    height: size,
    fill: colour,
    fillTo: `${colour.slice(0, 7)}00`,
    fillKind: 'radial',
    blend: 'screen',
    ...values,
  })

/** A layer that comes in between two heights of the frame, and goes again between two others, laid softly over what lies behind. */
const fadingIn = (from: number, to: number, held: Layer, out?: number, gone?: number): Layer =>
  group(
    `${held.name}, softly`,
    [
      held,
      part('rectangle', 'How far', {
        x: WIDTH / 2,
        y: (from + HEIGHT) / 2,
        width: WIDTH,
        height: HEIGHT - from,
        radius: 0,
        fillKind: 'linear',
        fillAngle: 90,
        fill: '#ffffff00',
        fillStops: [
          { at: (to - from) / (HEIGHT - from), colour: '#ffffff' },
          ...(out !== undefined && gone !== undefined
            ? [
                { at: (out - from) / (HEIGHT - from), colour: '#ffffff' },
                { at: (gone - from) / (HEIGHT - from), colour: '#ffffff00' },
              ]
            : []),
        ],
        fillTo: out === undefined ? '#ffffff' : '#ffffff00',
      }),
    ],
    { mask: 'shape', blend: 'soft-light' },
  )

/** A line of hills or rocks: from left to right at a height, as rough as it says, closed below. */
function ridge(y: number, rough: number, seed: number, bottom: number, steps = 64): string {
  const points = Array.from({ length: steps + 1 }, (_, i) => {
    const x = (i / steps) * WIDTH
    const wave = Math.sin(i * 0.23 + seed) + 0.5 * Math.sin(i * 0.61 + 2 * seed)
    return `L${x.toFixed(0)} ${(y - rough * (wave * 0.5 + seeded(seed, i) * 0.7)).toFixed(1)}`
  })
  return `M0 ${bottom}${points.join('')}L${WIDTH} ${bottom}Z`
}

/** Effects of a lens and a sensor: glow, fall-off, grain. */
const camera = (warmth: number, grain: number, vignette: number): readonly Layer[] => [
  part('glow', 'Halation', { amount: 0.5, radius: 18, from: 0.62, edges: 'stretch', x: WIDTH / 2, y: HEIGHT / 2 }),
  part('temperature', 'White balance', { temperature: warmth, tint: 0 }),
  part('vignette', 'Fall-off', {
    amount: vignette,
    from: 0.4,
    softness: 0.9,
    colour: '#02070b',
    x: WIDTH / 2,
    y: HEIGHT / 2,
  }),
  part('blurred', 'Lens', { radius: 0.6, edges: 'stretch' }),
  part('grain', 'Grain', { amount: grain, size: 1.6, colours: 'coloured', seed: 11 }),
  part('sharpen', 'In the camera', { amount: 0.35, radius: 1, edges: 'stretch' }),
]

const HORIZON = 318

/** Lamps of the pier from near to far: place on the deck and how near. */
const LAMPS = [
  { x: 905, y: 395, size: 1 },
  { x: 787, y: 352, size: 0.58 },
  { x: 725, y: 334, size: 0.36 },
  { x: 690, y: 325, size: 0.24 },
]

/** The pier at night: lamps along the deck, their light on still water, the far shore, the lighthouse. */
export function pierAtNight(): Loop {
  const lamps = LAMPS.flatMap(({ x, y, size }) => [
    part('rectangle', 'Lamp post', {
      x,
      y: y - 66 * size,
      width: 7 * size,
      height: 132 * size,
      radius: 1,
      fill: '#0a1216',
      fillTo: '#2a2620',
      fillKind: 'linear',
      fillAngle: 0,
    }),
    glow('Lamp', x, y - 136 * size, 260 * size, '#ffb85c'),
    part('ellipse', 'Bulb', { x, y: y - 136 * size, width: 15 * size, height: 18 * size, fill: '#fff3d6' }),
    part('ellipse', 'Light on the deck', {
      x,
      y: y + 3,
      width: 170 * size,
      height: 34 * size,
      fill: '#f0a850',
      fillTo: '#f0a85000',
      fillKind: 'radial',
      blend: 'screen',
      opacity: 0.5,
    }),
  ])
  const reflections = LAMPS.map(({ x, y, size }) =>
    part('ellipse', 'Light on the water', {
      x: x - 150 * size,
      y: y + 150 + 60 * size,
      width: 34 * size + 8,
      height: 330 * size + 90,
      fill: '#ffb65a',
      fillTo: '#ffb65a00',
      fillKind: 'radial',
      blend: 'screen',
      opacity: 0.75,
    }),
  )
  const shore = Array.from({ length: 26 }, (_, i) => {
    const x = 20 + seeded(5, i) * 640
    const warm = seeded(6, i) > 0.35
    const size = 5 + 6 * seeded(7, i)
    return [
      glow('Window', x, HORIZON - 5 - 9 * seeded(8, i), 3 * size, warm ? '#ffcf8a' : '#bfe0ff'),
      part('ellipse', 'Its light on the water', {
        x,
        y: HORIZON + 26,
        width: 5,
        height: 46 + 40 * seeded(9, i),
        fill: warm ? '#ffc070' : '#a8cdf0',
        fillTo: '#ffc07000',
        fillKind: 'radial',
        blend: 'screen',
        opacity: 0.35,
      }),
    ]
  }).flat()
  const posts = [0, 1, 2, 3, 4, 5, 6].map((i) => {
    const near = 1 / (1 + i * 0.62)
    const x = 690 + 470 * near - 80 * near
    const top = 322 + 120 * near
    return part('rectangle', 'Pile', {
      x,
      y: top + 120 * near,
      width: 22 * near,
      height: 240 * near,
      radius: 2,
      fill: '#0b1114',
      fillTo: '#231d18',
      fillKind: 'linear',
      fillAngle: 0,
    })
  })
  return scene('pier-at-night', 'Pier at night', '#050b14', [
    sweep('Sky', 0, HORIZON + 4, '#050a15', '#1d3a55', { fillStops: [{ at: 0.6, colour: '#0e2238' }] }),
    part('texture', 'Cloud', {
      ...frame,
      y: 140,
      height: 300,
      look: 'clouds',
      size: 360,
      octaves: 6,
      roughness: 0.55,
      warp: 1,
      spread: 1.6,
      seed: 21,
      colour: '#0a162400',
      colourTo: '#3c587455',
      opacity: 0.55,
    }),
    part('particles', 'Stars', {
      ...frame,
      y: 120,
      height: 240,
      shape: 'disc',
      count: 260,
      size: 2.2,
      sizeSpread: 0.8,
      softness: 0.6,
      driftX: 0,
      driftY: 0,
      depths: 3,
      colour: '#dfeaff',
      colourTo: '#8fa6c8',
      opacity: 0.55,
      seed: 3,
    }),
    glow('Town behind the hill', 250, HORIZON - 10, 900, '#6a6a60', { height: 240, opacity: 0.5, blur: 30 }),
    shape('Far hills', ridge(HORIZON - 20, 24, 2, HORIZON + 4), { fill: '#0b1826', blur: 1.2 }),
    shape('Near shore', ridge(HORIZON - 4, 10, 9, HORIZON + 6), { fill: '#060f18', blur: 0.6 }),
    part('rectangle', 'Lighthouse', {
      x: 168,
      y: HORIZON - 46,
      width: 13,
      height: 78,
      radius: 2,
      fill: '#1b2c39',
      fillTo: '#4a5a62',
      fillKind: 'linear',
      fillAngle: 0,
    }),
    glow('Its lamp', 168, HORIZON - 90, 130, '#ffe9b8'),
    shape('Beam', `M168 ${HORIZON - 90}L620 ${HORIZON - 190}L620 ${HORIZON - 120}Z`, {
      fill: '#ffe9b8',
      fillTo: '#ffe9b800',
      fillKind: 'linear',
      fillAngle: 0,
      opacity: 0.16,
      blur: 9,
      blend: 'screen',
    }),
    // The water, with what is mirrored in it bent by small waves.
    group('Water', [
      sweep('Depth', HORIZON, HEIGHT - HORIZON, '#16324a', '#03070d', { fillStops: [{ at: 0.25, colour: '#0a1c2c' }] }),
      part('texture', 'Swell', {
        ...frame,
        y: HORIZON + 200,
        height: 900,
        look: 'ripples',
        size: 150,
        roughness: 0.6,
        warp: 0.5,
        spread: 1.4,
        seed: 4,
        colour: '#00000000',
        colourTo: '#5f89a055',
        scaleY: 0.5,
        opacity: 0.45,
      }),
      ...shore.filter(({ name }) => name === 'Its light on the water'),
      part('ellipse', 'Lighthouse on the water', {
        x: 168,
        y: HORIZON + 90,
        width: 22,
        height: 190,
        fill: '#ffe2a8',
        fillTo: '#ffe2a800',
        fillKind: 'radial',
        blend: 'screen',
        opacity: 0.5,
      }),
      ...reflections,
      part('displacement', 'Swell', {
        x: WIDTH / 2,
        y: 500,
        by: 'heat haze',
        amount: 34,
        size: 60,
        seed: 9,
        edges: 'stretch',
      }),
      part('displacement', 'Small waves', {
        x: WIDTH / 2,
        y: 500,
        by: 'heat haze',
        amount: 26,
        size: 17,
        seed: 3,
        edges: 'stretch',
      }),
    ]),
    ...shore.filter(({ name }) => name === 'Window'),
    ...posts,
    // The deck, narrowing towards its end.
    group(
      'Deck',
      [
        part('texture', 'Planks', {
          x: 980,
          y: 520,
          width: 1500,
          height: 1500,
          look: 'streaks',
          size: 40,
          octaves: 5,
          roughness: 0.6,
          warp: 0.2,
          spread: 1.6,
          seed: 6,
          colour: '#120f0d',
          colourTo: '#4a3d31',
          rotation: -68,
        }),
        shape('Its shape', `M1280 470L1280 720L1010 720L668 ${HORIZON + 4}L676 ${HORIZON + 2}Z`, { fill: '#ffffff' }),
      ],
      { mask: 'shape' },
    ),
    shape('Shadow under the rail', `M1010 720L668 ${HORIZON + 4}L664 ${HORIZON + 6}L960 720Z`, {
      fill: '#020507',
      opacity: 0.85,
      blur: 3,
    }),
    shape('Rail', `M1280 390L676 ${HORIZON - 8}`, { fill: null, stroke: '#1a1b1b', strokeWidth: 5, cap: 'butt' }),
    shape('Rail below', `M1280 432L674 ${HORIZON - 3}`, { fill: null, stroke: '#141616', strokeWidth: 3, cap: 'butt' }),
    ...lamps,
    part('texture', 'Haze', {
      ...frame,
      y: HORIZON,
      height: 220,
      look: 'clouds',
      size: 500,
      octaves: 4,
      roughness: 0.5,
      warp: 0.6,
      spread: 1.2,
      seed: 31,
      colour: '#8fb0c800',
      colourTo: '#8fb0c82e',
      blur: 14,
    }),
    ...camera(-0.05, 0.022, 0.75),
  ])
}

/** The breakwater on a grey day: a mole of concrete running out to sea, broken water at its foot. */
export function breakwater(): Loop {
  const horizon = 268
  const end = { x: 850, y: horizon + 14 }
  /** A place on the mole: how far along it, and how far across its top (0 the sea side, 1 the harbour side). */
  const on = (far: number, side: number) => {
    const near = 1 / (1 + far)
    const from = { x: -260 + 420 * (1 - side), y: 700 - 190 * side }
    return `${(end.x + (from.x - end.x) * near).toFixed(1)} ${(end.y + (from.y - end.y) * near).toFixed(1)}`
  }
  const face = (far: number) => {
    const near = 1 / (1 + far)
    return `${(end.x + (330 - end.x) * near).toFixed(1)} ${(end.y + (1010 - end.y) * near).toFixed(1)}`
  }
  const far = Array.from({ length: 15 }, (_, i) => i * 0.34)
  const stones = Array.from({ length: 90 }, (_, i) => {
    const distance = 6 * seeded(71, i) ** 1.6
    const near = 1 / (1 + distance)
    const x = end.x + (330 + 330 * seeded(72, i) - end.x) * near
    const y = end.y + (840 + 190 * seeded(73, i) - end.y) * near
    const w = 150 * near * (0.6 + 0.7 * seeded(74, i))
    const h = 105 * near * (0.6 + 0.7 * seeded(75, i))
    const at = (k: number) => {
      const angle = (k / 7) * 2 * Math.PI + 0.5 * seeded(76, i, k)
      const reach = 0.42 + 0.2 * seeded(77, i, k)
      return `${(x + w * reach * Math.cos(angle)).toFixed(1)} ${(y + h * reach * Math.sin(angle)).toFixed(1)}`
    }
    const grey = 34 + 44 * seeded(78, i)
    const tone = (k: number) =>
      `#${[k, k * 1.04, k * 1.03].map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`
    return {
      y,
      layer: shape('Stone', `M${[0, 1, 2, 3, 4, 5, 6].map(at).join('L')}Z`, {
        fill: tone(grey + 46),
        fillTo: tone(grey - 18),
        fillKind: 'linear',
        fillAngle: 80,
        blur: 0.7,
      }),
    }
  })
    .sort((a, b) => a.y - b.y)
    .map((stone) => stone.layer)
  const rough = (seed: number, size: number, opacity: number): Layer =>
    part('texture', 'Weather', {
      ...frame,
      look: 'clouds',
      size,
      octaves: 8,
      roughness: 0.75,
      warp: 0.8,
      spread: 2.2,
      seed,
      colour: '#26302e',
      colourTo: '#ffffff',
      blend: 'overlay',
      opacity,
    })
  return scene('breakwater', 'Breakwater', '#aab6bb', [
    sweep('Sky', 0, horizon + 6, '#87959e', '#cfd6d5', { fillStops: [{ at: 0.55, colour: '#aab6bb' }] }),
    part('texture', 'Clouds', {
      ...frame,
      y: 120,
      height: 340,
      look: 'clouds',
      size: 420,
      octaves: 7,
      roughness: 0.55,
      warp: 1.1,
      spread: 1.9,
      seed: 17,
      colour: '#5f707b',
      colourTo: '#f1f3ef',
      blend: 'soft-light',
      opacity: 0.9,
      blur: 2,
    }),
    glow('Light behind the cloud', 930, 100, 1000, '#fff6df', { height: 520, opacity: 0.35, blur: 40 }),
    shape('Headland', ridge(horizon - 10, 20, 5, horizon + 4), { fill: '#8d9ba1', opacity: 0.8, blur: 2.5 }),
    group('Sea', [
      sweep('Depth', horizon, HEIGHT - horizon, '#93a3a7', '#2d454c', { fillStops: [{ at: 0.25, colour: '#677f85' }] }),
      fadingIn(
        horizon,
        horizon + 6,
        part('texture', 'Far waves', {
          ...frame,
          y: horizon + 220,
          height: 460,
          look: 'ridges',
          size: 40,
          octaves: 5,
          roughness: 0.6,
          warp: 0.4,
          spread: 1.6,
          seed: 8,
          colour: '#2c434a',
          colourTo: '#f2f5f3',
          scaleY: 0.5,
          opacity: 0.8,
        }),
        horizon + 60,
        horizon + 150,
      ),
      fadingIn(
        horizon + 50,
        horizon + 150,
        part('texture', 'Waves', {
          ...frame,
          y: horizon + 250,
          height: 800,
          look: 'ridges',
          size: 110,
          octaves: 7,
          roughness: 0.62,
          warp: 0.45,
          spread: 1.8,
          seed: 12,
          colour: '#12262d',
          colourTo: '#e9efed',
          scaleY: 0.6,
          opacity: 0.9,
        }),
        horizon + 160,
        horizon + 330,
      ),
      fadingIn(
        horizon + 140,
        horizon + 320,
        part('texture', 'Near waves', {
          ...frame,
          y: horizon + 300,
          height: 1000,
          look: 'ridges',
          size: 260,
          octaves: 8,
          roughness: 0.62,
          warp: 0.5,
          spread: 1.9,
          seed: 14,
          colour: '#0c2027',
          colourTo: '#eef3f1',
          scaleY: 0.6,
        }),
      ),
      part('texture', 'Foam', {
        ...frame,
        y: horizon + 300,
        height: 1000,
        look: 'clouds',
        size: 150,
        octaves: 8,
        roughness: 0.78,
        warp: 0.6,
        spread: 2.6,
        seed: 19,
        colour: '#ffffff00',
        stops: [{ at: 0.72, colour: '#ffffff00' }],
        colourTo: '#f4f7f5',
        scaleY: 0.62,
        opacity: 0.55,
      }),
    ]),
    // The mole: its face towards the sea, its top, its joints, what the weather has done to it.
    group('Mole', [
      shape('Face', `M${on(0, 0)}L${face(0)}L${face(40)}L${on(40, 0)}Z`, {
        fill: '#4c5655',
        fillTo: '#8b9391',
        fillKind: 'linear',
        fillAngle: -20,
      }),
      shape('Top', `M${on(0, 0)}L${on(40, 0)}L${on(40, 1)}L${on(0, 1)}Z`, {
        fill: '#a9aeaa',
        fillTo: '#c9cdc9',
        fillKind: 'linear',
        fillAngle: -20,
      }),
      shape('Kerb', `M${on(0, 1)}L${on(40, 1)}L${on(40, 1.12)}L${on(0, 1.12)}Z`, { fill: '#7d8481' }),
      ...far.map((way) =>
        shape('Joint', `M${on(way, 1.1)}L${on(way, 0)}L${face(way)}`, {
          fill: null,
          stroke: '#39403f',
          strokeWidth: 5 / (1 + way) + 0.5,
          opacity: 0.55,
          blur: 0.8,
        }),
      ),
      shape('Edge', `M${on(0, 0)}L${on(40, 0)}`, {
        fill: null,
        stroke: '#dfe3df',
        strokeWidth: 3,
        opacity: 0.6,
        blur: 1,
      }),
      shape('Wet foot', `M${face(0)}L${face(40)}L${on(40, 0)}L0 900Z`, { fill: '#16201f', opacity: 0.4, blur: 26 }),
      group(
        'Weather',
        [
          rough(23, 150, 0.5),
          rough(24, 40, 0.4),
          shape('Where it is', `M${on(0, 1.12)}L${on(40, 1.12)}L${face(40)}L${face(0)}Z`, { fill: '#ffffff' }),
        ],
        { mask: 'shape', blend: 'overlay' },
      ),
      {
        ...part('displacement', 'Worn', { x: 0, y: 0, by: 'glass', amount: 3, size: 22, seed: 60, edges: 'stretch' }),
        motions: {},
      },
    ]),
    // A small light at its end.
    part('rectangle', 'Light tower', {
      x: end.x - 4,
      y: end.y - 44,
      width: 15,
      height: 72,
      radius: 2,
      fill: '#e8e6de',
      fillTo: '#8f9694',
      fillKind: 'linear',
      fillAngle: 0,
    }),
    part('rectangle', 'Its lantern', {
      x: end.x - 4,
      y: end.y - 84,
      width: 11,
      height: 13,
      radius: 2,
      fill: '#c7533c',
    }),
    group('Stones', [...stones, { ...part('grain', 'Rough', { amount: 0.05, size: 2.4, seed: 51 }), motions: {} }], {
      shadowColour: '#0a1619cc',
      shadowX: 4,
      shadowY: 6,
      shadowBlur: 12,
    }),
    group(
      'Broken water',
      [
        part('texture', 'White', {
          ...frame,
          y: 560,
          height: 520,
          look: 'clouds',
          size: 140,
          octaves: 8,
          roughness: 0.72,
          warp: 0.5,
          spread: 2.6,
          seed: 29,
          colour: '#ffffff00',
          stops: [{ at: 0.4, colour: '#ffffff00' }],
          colourTo: '#fbfdfc',
        }),
        shape(
          'Where it breaks',
          'M430 760C520 640 640 520 740 420C790 370 820 330 850 312L930 330C960 420 920 560 840 680C800 730 640 790 430 760Z',
          { fill: '#ffffff', blur: 36 },
        ),
      ],
      { mask: 'shape' },
    ),
    part('texture', 'Mist', {
      ...frame,
      y: 330,
      height: 360,
      look: 'clouds',
      size: 520,
      octaves: 5,
      roughness: 0.5,
      warp: 0.8,
      spread: 1.3,
      seed: 37,
      colour: '#e6ecea00',
      colourTo: '#e6eceaa0',
      blur: 18,
      opacity: 0.4,
    }),
    ...camera(-0.12, 0.016, 0.5),
  ])
}
