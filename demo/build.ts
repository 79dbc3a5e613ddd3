import { fraction } from '../src/core/clock'
import type { Values } from '../src/core/layers'
import { type Layer, type Loop, newLayer, newLoop } from '../src/core/loop'
import type { Ease, Key, Motion } from '../src/core/motion'

/** The colours of Saltmere Light. */
const SEA_INK = '#0a2231'
const DEEP = '#123a4c'
const LAMP = '#f6b84b'
const CREAM = '#f7ead0'
const CORAL = '#ef7f5f'
const GLASS = '#79c9b4'

const layer = (
  kind: string,
  id: string,
  name: string,
  values: Values,
  motions: Record<string, Motion> = {},
): Layer => ({
  ...newLayer(kind, name, values, id),
  motions,
})
const keys = (ease: Ease, ...places: [at: number, value: number, ease?: Ease][]): Key[] =>
  places.map(([at, value, own]) => ({ at, value, ease: own ?? ease }))
const repeat = (keys: Key[], phase = 0, cycles = 1): Motion => ({ keys, after: 'repeat', period: { cycles }, phase })
const carry = (keys: Key[], cycles = 1): Motion => ({ keys, after: 'accumulate', period: { cycles }, phase: 0 })

/** An arc that grows and is eaten up while it turns: both ends carry on by a whole turn, at different paces. */
function beaconLoader(): Loop {
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
function boardingBuoys(): Loop {
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

/** The demo loops by file name. */
export const DEMO_LOOPS: Readonly<Record<string, () => Loop>> = {
  'beacon-loader': beaconLoader,
  'boarding-buoys': boardingBuoys,
}
