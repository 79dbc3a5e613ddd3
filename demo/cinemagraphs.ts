import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { fraction } from '../src/core/clock'
import type { Layer, Loop } from '../src/core/document'
import { newLayer } from '../src/core/edit'
import type { BrushStroke } from '../src/core/effects'
import type { Values } from '../src/core/layers'
import { PRESETS } from '../src/core/layers/particles/presets'
import type { StillPicture } from '../src/core/media'
import { carry, demoLoop, keys, layer } from './parts'

const SIZE = { width: 1280, height: 720 }
const MIDDLE = { x: 640, y: 360 }
const carried = (cycles = 1) => carry(keys('linear', [0, 0], [1, 1]), cycles)

/** A still of the demo, as a document names it. */
function stillOf(id: string, name: string): StillPicture {
  const bytes = readFileSync(new URL(`./loops/assets/${id}.jpg`, import.meta.url))
  const sha = createHash('sha256').update(bytes).digest('hex')
  return { kind: 'picture', id, name, ...SIZE, file: { id: sha, type: 'image/jpeg', bytes: bytes.length } }
}

const still = (id: string, name: string): Layer =>
  layer('picture', `${id}-still`, name, { ...MIDDLE, ...SIZE, picture: id })
const group = (id: string, name: string, values: Values, layers: readonly Layer[]): Layer => ({
  ...newLayer('group', name, values, id),
  layers,
})
const preset = (label: string): Values => PRESETS.find((each) => each.label === label)?.values ?? {}
const stroke = (size: number, softness: number, points: readonly number[]): BrushStroke => ({
  size,
  softness,
  strength: 1,
  points,
})

/** Glowing plankton that rises from the water by the pier and swirls over it, mirrored in the water. */
export function planktonNight(): Loop {
  const loop = demoLoop('plankton-night', 'Plankton night', {
    kind: 'cinemagraph',
    ...SIZE,
    background: '#050b14',
    rate: fraction(25),
    length: 100,
  })
  const plankton = (id: string, values: Values = {}): Layer =>
    layer(
      'particles',
      id,
      'Plankton',
      {
        ...preset('glowing plankton'),
        ...MIDDLE,
        ...SIZE,
        count: 420,
        size: 20,
        sizeSpread: 0.85,
        driftX: 0,
        driftY: -1,
        sway: 26,
        seed: 5,
        ...values,
      },
      { time: carried() },
    )
  const swirl = (id: string, more: Values = {}): Layer =>
    layer(
      'displacement',
      id,
      'Swirl',
      { by: 'swirl', x: 420, y: 470, size: 330, angle: 38, edges: 'stretch', ...more },
      { time: carried() },
    )
  return {
    ...loop,
    media: [stillOf('pier-at-night', 'Pier at night')],
    layers: [
      still('pier-at-night', 'Pier at night'),
      group('plankton-mirrored', 'Mirrored in the water', { mask: 'shape', opacity: 0.6, blend: 'screen' }, [
        group('plankton-mirror', 'Mirror', { y: 700, scaleY: -1 }, [
          plankton('plankton-mirror-image', { opacity: 0.9 }),
        ]),
        swirl('plankton-mirror-swirl'),
        layer(
          'displacement',
          'plankton-mirror-waves',
          'Small waves',
          { by: 'heat haze', ...MIDDLE, amount: 16, size: 34, edges: 'stretch' },
          { time: carried() },
        ),
        layer('brush', 'plankton-water', 'Where the water is', {
          ...MIDDLE,
          strokes: [stroke(260, 0.6, [-600, 160, 1, 60, 160, 1]), stroke(220, 0.6, [-600, 260, 1, 160, 260, 1])],
        }),
      ]),
      group('plankton-rising', 'Rising', { mask: 'shape', blend: 'screen' }, [
        plankton('plankton-over'),
        swirl('plankton-swirl'),
        layer('glow', 'plankton-glow', 'Its glow', { amount: 3, radius: 16, from: 0.1, edges: 'stretch', ...MIDDLE }),
        layer('brush', 'plankton-mask', 'Where it is seen', {
          ...MIDDLE,
          strokes: [
            stroke(420, 0.9, [-460, 150, 1, -60, 170, 1]),
            stroke(340, 0.95, [-330, 20, 1, -150, -60, 1]),
            stroke(240, 0.9, [-60, 250, 1, 60, 180, 1]),
          ],
        }),
      ]),
    ],
  }
}

/** Spray that the wind blows over the breakwater, in three depths. */
export function spindrift(): Loop {
  const loop = demoLoop('spindrift', 'Spindrift', {
    kind: 'cinemagraph',
    ...SIZE,
    background: '#aab6bb',
    rate: fraction(25),
    length: 75,
  })
  return {
    ...loop,
    media: [stillOf('breakwater', 'Breakwater')],
    layers: [
      still('breakwater', 'Breakwater'),
      group('spindrift-mist', 'Drifting mist', { mask: 'shape', opacity: 0.5 }, [
        layer(
          'texture',
          'spindrift-veil',
          'Veil',
          {
            ...MIDDLE,
            ...SIZE,
            look: 'clouds',
            size: 320,
            octaves: 5,
            roughness: 0.55,
            warp: 0.7,
            spread: 1.8,
            seed: 3,
            steps: 2,
            colour: '#eef3f200',
            colourTo: '#f7faf9',
          },
          { time: carried(), driftX: carry(keys('linear', [0, 0], [1, -1])) },
        ),
        layer('brush', 'spindrift-veil-mask', 'Where it drifts', {
          ...MIDDLE,
          strokes: [stroke(300, 1, [-260, 120, 1, 180, -50, 1]), stroke(200, 1, [-60, 200, 1, 160, 0, 1])],
        }),
      ]),
      group('spindrift-blown', 'Blown over the mole', { mask: 'shape' }, [
        layer(
          'particles',
          'spindrift-spray',
          'Spray',
          {
            ...preset('spray'),
            ...MIDDLE,
            ...SIZE,
            count: 1600,
            size: 6,
            depths: 3,
            parallax: 0.6,
            driftX: -1,
            driftY: 0,
            sway: 26,
            seed: 8,
          },
          { time: carried() },
        ),
        layer('brush', 'spindrift-mask', 'Where it blows', {
          ...MIDDLE,
          strokes: [
            stroke(330, 0.95, [-80, 240, 0.9, 110, 60, 0.9, 190, -60, 0.4]),
            stroke(260, 1, [-330, 90, 1, 60, -40, 1]),
          ],
        }),
      ]),
      layer('temperature', 'spindrift-grade', 'Colder', { ...MIDDLE, temperature: -0.12, tint: 0 }),
    ],
  }
}
