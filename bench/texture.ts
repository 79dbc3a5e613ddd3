import { createCanvas } from '@napi-rs/canvas'
import type { Layer, Loop } from '../src/core/document'
import { newLayer, newLoop } from '../src/core/edit'
import { evenly } from '../src/core/motion'
import { NodeRenderer } from '../src/render/node'
import { least } from './least'

const SIZE = { width: 1280, height: 720 }

const textured = (motions: Layer['motions'], values = {}): Loop => ({
  ...newLoop({ name: 'Swell', kind: 'texture', ...SIZE, background: null, rate: { num: 25, den: 1 }, length: 100 }),
  layers: [
    {
      ...newLayer('texture', 'Field', {
        x: 640,
        y: 360,
        ...SIZE,
        look: 'clouds',
        octaves: 4,
        warp: 0,
        size: 160,
        ...values,
      }),
      motions,
    },
  ],
})

/** Gradient noise as it is written down most often (Perlin 2002): a table of shuffled numbers, the gradient by its bits. */
const TABLE = Uint8Array.from({ length: 512 }, (_, i) => (Math.imul(i & 255, 0x9e3779b1) >>> 24) & 255)
const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10)
const mix = (t: number, a: number, b: number) => a + t * (b - a)
function gradient(hash: number, x: number, y: number, z: number): number {
  const h = hash & 15
  const u = h < 8 ? x : y
  const v = h < 4 ? y : h === 12 || h === 14 ? x : z
  return ((h & 1) === 0 ? u : -u) + ((h & 2) === 0 ? v : -v)
}
function noise(x: number, y: number, z: number): number {
  const i = Math.floor(x)
  const j = Math.floor(y)
  const k = Math.floor(z)
  const fx = x - i
  const fy = y - j
  const fz = z - k
  const u = fade(fx)
  const v = fade(fy)
  const a = (TABLE[i & 255] as number) + j
  const b = (TABLE[(i + 1) & 255] as number) + j
  const aa = (TABLE[a & 255] as number) + k
  const ab = (TABLE[(a + 1) & 255] as number) + k
  const ba = (TABLE[b & 255] as number) + k
  const bb = (TABLE[(b + 1) & 255] as number) + k
  const g = gradient
  const t = TABLE as unknown as number[]
  const low = mix(
    v,
    mix(u, g(t[aa & 255] as number, fx, fy, fz), g(t[ba & 255] as number, fx - 1, fy, fz)),
    mix(u, g(t[ab & 255] as number, fx, fy - 1, fz), g(t[bb & 255] as number, fx - 1, fy - 1, fz)),
  )
  const high = mix(
    v,
    mix(u, g(t[(aa + 1) & 255] as number, fx, fy, fz - 1), g(t[(ba + 1) & 255] as number, fx - 1, fy, fz - 1)),
    mix(u, g(t[(ab + 1) & 255] as number, fx, fy - 1, fz - 1), g(t[(bb + 1) & 255] as number, fx - 1, fy - 1, fz - 1)),
  )
  return mix(fade(fz), low, high)
}

/** Four octaves of it, pixel by pixel, with nothing that is used again. */
function plainNoise(time: number): Float32Array {
  const out = new Float32Array(SIZE.width * SIZE.height)
  for (let y = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++) {
      let sum = 0
      let cells = 8
      let amount = 1
      for (let octave = 1; octave <= 4; octave++) {
        sum += amount * noise((x / SIZE.width) * cells, (y / SIZE.height) * cells, time * 2 * octave)
        cells *= 2
        amount /= 2
      }
      out[y * SIZE.width + x] = sum
    }
  return out
}

const COUNT = 5000

/** The rows of the table about textures and particles. */
export function textureRows(): string[] {
  const plain = least(3, (run) => plainNoise(run / 7))
  const first = least(3, (run) => {
    new NodeRenderer(SIZE.width, SIZE.height).draw(textured({}, { seed: run }), 0)
  })
  const renderer = new NodeRenderer(SIZE.width, SIZE.height)
  const drifting = textured({ driftX: evenly(1) })
  renderer.draw(drifting, 0)
  const drift = least(12, (run) => renderer.draw(drifting, run + 1))
  const living = textured({ time: evenly(1) })
  const evolving = least(6, (run) => renderer.draw(living, run + 1))
  const row = (what: string, ms: number, goal: string) =>
    `| ${what} | a plain loop over its pixels, without reuse | ${ms.toFixed(1)} ms against ${plain.toFixed(0)} ms | ${(ms / plain).toFixed(3)} | ${goal} |`

  const spray = {
    ...newLoop({
      name: 'Spray',
      kind: 'cinemagraph',
      ...SIZE,
      background: null,
      rate: { num: 25, den: 1 },
      length: 100,
    }),
    layers: [
      {
        ...newLayer('particles', 'Spray', { x: 640, y: 360, ...SIZE, count: COUNT, size: 8, driftX: 1 }),
        motions: { time: evenly(1) },
      },
    ],
  }
  const sprite = createCanvas(64, 64)
  sprite.getContext('2d').fillRect(8, 8, 48, 48)
  const context = createCanvas(SIZE.width, SIZE.height).getContext('2d')
  const bare = least(8, () => {
    context.clearRect(0, 0, SIZE.width, SIZE.height)
    for (let i = 0; i < COUNT; i++) {
      context.globalAlpha = 0.5
      context.drawImage(sprite, (i * 37) % SIZE.width, (i * 53) % SIZE.height, 8, 8)
    }
    // Drawing is deferred until pixels are read.
    context.getImageData(0, 0, 1, 1)
  })
  const drawn = least(8, (run) => {
    renderer.picture(spray, run)
  })
  const empty = { ...spray, layers: [] }
  const frame = least(8, (run) => {
    renderer.picture(empty, run)
  })
  return [
    row('texture of 4 octaves at 1280×720, first frame', first, '-'),
    row('the same, next frame of a drift', drift, '< 0.05'),
    row('the same, next frame of an evolving field', evolving, '< 0.3'),
    `| 5,000 particles at 1280×720, without the empty frame | as many bare drawImage calls | ${(drawn - frame).toFixed(1)} ms against ${bare.toFixed(1)} ms | ${((drawn - frame) / bare).toFixed(2)} | ≤ 1.5 |`,
  ]
}
