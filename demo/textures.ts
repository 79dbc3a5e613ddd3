import { fraction } from '../src/core/clock'
import type { Loop } from '../src/core/document'
import { CORAL, CREAM, carry, DEEP, demoLoop, keys, LAMP, layer } from './parts'

/** Slanting bands that shift by one pitch. */
export function buntingStripes(): Loop {
  const loop = demoLoop('bunting-stripes', 'Bunting stripes', {
    kind: 'texture',
    width: 480,
    height: 270,
    background: CREAM,
    rate: fraction(25),
    length: 25,
  })
  const band = (id: string, x: number, fill: string) =>
    layer('path', id, 'Band', { x, y: 0, path: 'M-10 150L35 150L100 -150L55 -150Z', fill })
  return {
    ...loop,
    palette: [
      { name: 'lamp', colour: LAMP },
      { name: 'sea', colour: DEEP },
      { name: 'coral', colour: CORAL },
    ],
    layers: [
      {
        ...layer(
          'copies',
          'bunting-bands',
          'Bands',
          { x: 240, y: 135, arrangement: 'row', spacing: 'pitch', count: 7, pitch: 150 },
          { shift: carry(keys('linear', [0, 0], [1, 1])) },
        ),
        layers: [
          band('bunting-lamp', -50, 'var(--lamp)'),
          band('bunting-sea', 0, 'var(--sea)'),
          band('bunting-coral', 50, 'var(--coral)'),
        ],
      },
    ],
  }
}
