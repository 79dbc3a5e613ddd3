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

/** A page background: light, of low contrast, and the same in x, y and time. */
export function chartPaperClouds(): Loop {
  const loop = demoLoop('chart-paper-clouds', 'Chart-paper clouds', {
    kind: 'texture',
    width: 640,
    height: 360,
    background: CREAM,
    rate: fraction(25),
    length: 100,
  })
  const carried = carry(keys('linear', [0, 0], [1, 1]))
  return {
    ...loop,
    layers: [
      layer(
        'texture',
        'chart-paper-clouds-field',
        'Clouds',
        {
          x: 320,
          y: 180,
          width: 640,
          height: 360,
          look: 'clouds',
          size: 200,
          octaves: 4,
          roughness: 0.45,
          warp: 0.8,
          spread: 0.8,
          seed: 7,
          steps: 2,
          colour: '#efdfc0',
          colourTo: '#fbf3e2',
        },
        { time: carried, driftX: carried },
      ),
    ],
  }
}
