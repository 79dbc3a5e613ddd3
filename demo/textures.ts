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

/** Hexagonal tiles lifted by waves, which pass through them and come home. */
export function harbourSwell(): Loop {
  const loop = demoLoop('harbour-swell', 'Harbour swell', {
    kind: 'texture',
    width: 1280,
    height: 720,
    background: DEEP,
    rate: fraction(25),
    length: 75,
  })
  return {
    ...loop,
    layers: [
      layer(
        'lattice',
        'harbour-swell-tiles',
        'Tiles',
        {
          x: 640,
          y: 360,
          width: 1280,
          height: 720,
          cell: 'hexagon',
          cellSize: 80,
          gap: 5,
          rise: 90,
          view: 'perspective',
          tilt: 55,
          yaw: 18,
          look: 'ripples',
          size: 420,
          roughness: 0,
          warp: 0.2,
          spread: 1,
          seed: 5,
          steps: 1,
          colour: '#0b3346',
          colourTo: '#9fe0d2',
          stops: [{ at: 0.6, colour: '#2a7f86' }],
        },
        { time: carry(keys('linear', [0, 0], [1, 1])) },
      ),
    ],
  }
}
