import { formatLoop } from '../src/core/document'
import { newLayer, newLoop } from '../src/core/edit'
import { type BrushStroke, blurred, displaced, grained, heatHaze, thinnedStroke } from '../src/core/effects'
import type { Picture } from '../src/core/image'
import { seeded } from '../src/core/random'
import { texturePicture } from '../src/core/texture'
import { least } from './least'

const WIDTH = 1280
const HEIGHT = 720

const texture: Picture = texturePicture(
  {
    look: 'clouds',
    contrast: 1.5,
    ramp: { from: '#0b2230', to: '#9fe0d2', stops: [] },
    shape: { cellsX: 8, cellsY: 5, octaves: 5, roughness: 0.5, warp: 0.4, steps: 2, seed: 3, time: 0 },
  },
  WIDTH,
  HEIGHT,
)

/** A picture copied as plainly as can be: each channel of each pixel. */
function copied({ width, height, data }: Picture): Picture {
  const out = new Uint8ClampedArray(data.length)
  for (let i = 0; i < data.length; i++) out[i] = data[i] as number
  return { width, height, data: out }
}

/** A hand-drawn stroke: `n` samples of a pen along a wavy line. */
function strokeOf(n: number): BrushStroke {
  const x = WIDTH * seeded(n, 1)
  const y = HEIGHT * seeded(n, 2)
  const long = 80 + 200 * seeded(n, 3)
  const turn = 6.3 * seeded(n, 4)
  const bend = 30 * seeded(n, 5)
  const points = Array.from({ length: 90 }, (_, i) => {
    const t = i / 89
    const off = bend * Math.sin(5 * t + n)
    const dx = t * long
    const dy = off
    return [
      x + dx * Math.cos(turn) - dy * Math.sin(turn) + 0.3 * (seeded(n, i, 6) - 0.5),
      y + dx * Math.sin(turn) + dy * Math.cos(turn) + 0.3 * (seeded(n, i, 7) - 0.5),
      0.5 + 0.5 * Math.sin(3 * t),
    ]
  }).flat()
  return { size: 60, softness: 0.7, strength: 1, points: thinnedStroke(points, 0.7) }
}

/** The rows of the table about effects and painted masks. */
export function effectRows(): string[] {
  const copy = least(5, () => copied(texture))
  const row = (what: string, ms: number) =>
    `| ${what} | copy it, channel by channel | ${ms.toFixed(1)} ms against ${copy.toFixed(1)} ms | ${(ms / copy).toFixed(1)} | |`
  const bend = { amount: 6, size: 60, angle: 0, seed: 1, centre: { x: 0, y: 0 } }
  const displace = least(5, (run) => displaced(texture, heatHaze(WIDTH, HEIGHT, { ...bend, time: run / 5 }), 'wrap'))
  const blur = least(5, () => blurred(texture, 12, 'wrap'))
  const grain = least(3, (step) => grained(texture, { amount: 0.06, size: 1.5, coloured: false, seed: 1, step }))

  const strokes = Array.from({ length: 500 }, (_, n) => strokeOf(n))
  const empty = newLoop({
    name: 'Mask',
    kind: 'cinemagraph',
    width: WIDTH,
    height: HEIGHT,
    background: null,
    rate: { num: 25, den: 1 },
    length: 50,
  })
  const bytes = (brush: readonly BrushStroke[]) =>
    formatLoop({ ...empty, layers: [newLayer('brush', 'Mask', { strokes: brush })] }).length
  const added = (bytes(strokes) - bytes([])) / 1000
  const alpha = (WIDTH * HEIGHT) / 1000
  return [
    row('displace a picture by heat haze', displace),
    row('blur it, 12 px', blur),
    row('lay grain over it', grain),
    `| a painted mask of 500 strokes, in the document | its alpha, pixel by pixel | ${added.toFixed(0)} kB against ${alpha.toFixed(0)} kB | ${(added / alpha).toFixed(2)} | |`,
  ]
}
