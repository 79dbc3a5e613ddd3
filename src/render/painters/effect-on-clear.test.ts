import { describe, expect, it } from 'vitest'
import type { Layer, Loop } from '@/core/document'
import { newLayer } from '@/core/edit'
import { pictureOfTable, tableOf } from '@/core/effects'
import type { Picture } from '@/core/image'
import { LAYER_KINDS, type Values } from '@/core/layers'
import { type Medium, madeAsset } from '@/core/media'
import { quay } from '@/core/testing/quay'
import { NodeRenderer, picturesInNode } from '../node'
import { pngInNode } from '../png-node'

const WIDTH = 72
const HEIGHT = 72
const GROUNDS = { white: '#ffffff', black: '#000000', grey: '#808080' } as const
const COLOURS = ['#f2b54a', '#ffffff', '#123a4c'] as const
type Colour = string

const exchanged = pictureOfTable(tableOf(4, ([r = 0, g = 0, b = 0]) => [b, g, r]))
const table = { kind: 'table', id: 'dusk', name: 'Dusk', size: 4 } as const
const media = [
  { ...table, file: await madeAsset('image/png', new Uint8Array(await pngInNode(exchanged))) } as Medium,
] as const

/** Each effect with values by which it changes something, and whether it changes each pixel by its own colour and place alone. */
const TRIED: Readonly<Record<string, { readonly values: Values; readonly byPixel: boolean; readonly within?: Layer }>> =
  {
    levels: { values: { black: 0.1, gamma: 1.4, toWhite: 0.9 }, byPixel: true },
    curves: { values: { all: [0, 0, 0.4, 0.6, 1, 1], red: [0, 0.1, 1, 1] }, byPixel: true },
    temperature: { values: { temperature: 0.5, tint: 0.2 }, byPixel: true },
    colourRange: { values: { turn: 70, saturation: 1.2 }, byPixel: true },
    gradientMap: { values: {}, byPixel: true },
    colourTable: { values: { table: 'dusk' }, byPixel: true },
    threshold: { values: {}, byPixel: true },
    grain: { values: { amount: 0.2 }, byPixel: true },
    vignette: { values: {}, byPixel: true },
    grade: {
      values: { strength: 0.7 },
      byPixel: true,
      within: newLayer('levels', 'Levels', { toBlack: 1, toWhite: 0 }),
    },
    blurred: { values: { radius: 4 }, byPixel: false },
    // Grounds that are brighter than this glow themselves.
    glow: { values: { radius: 6, from: 0.55 }, byPixel: false },
    sharpen: { values: { amount: 2, radius: 4 }, byPixel: false },
    displacement: { values: { amount: 4, size: 24 }, byPixel: false },
  }

/** A soft disc of a colour, or all of the frame in it, with an effect over it. */
async function drawn(
  kind: string,
  shown: { colour: Colour; fills?: boolean; ground?: Colour | null; strength?: number },
) {
  const { values, within } = TRIED[kind]
  const { colour, fills = false, ground = null, strength } = shown
  const size = fills ? { width: WIDTH, height: HEIGHT } : { width: 36, height: 36, blur: 5 }
  const seen = newLayer(fills ? 'rectangle' : 'ellipse', 'Buoy', { x: WIDTH / 2, y: HEIGHT / 2, ...size, fill: colour })
  const effect: Layer = {
    ...newLayer(kind, kind, { ...values, ...(strength === undefined ? {} : { strength }) }, 'effect'),
    ...(within ? { layers: [within] } : {}),
  }
  const layers = [fills ? { ...seen, values: { ...seen.values, radius: 0 } } : seen, effect]
  const loop: Loop = { ...quay, width: WIDTH, height: HEIGHT, length: 24, background: ground, media, layers }
  return new NodeRenderer(WIDTH, HEIGHT).picture(loop, 0, await picturesInNode(loop))
}

const channels = (colour: Colour): readonly number[] =>
  [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16))

/** A picture laid on a ground. */
const laidOn = ({ width, height, data }: Picture, ground: Colour): Picture => ({
  width,
  height,
  data: data.map((value, i) => {
    const alpha = data[i - (i % 4) + 3] / 255
    return i % 4 === 3 ? 255 : value * alpha + channels(ground)[i % 4] * (1 - alpha)
  }),
})

/** The most by which pictures differ where the colour of a pixel of `seen` can be told, at each as finely as it can. */
function difference(a: Picture, b: Picture, seen: Picture, halfClearOnly = false): number {
  let most = 0
  for (let i = 0; i < a.data.length; i += 4) {
    if (halfClearOnly && [0, 255].includes(seen.data[i + 3])) continue
    for (let c = 0; c < 3; c++) {
      // A byte of a colour that is hardly there stands for many.
      const rounding = 255 / Math.max(8, seen.data[i + 3])
      most = Math.max(most, Math.abs(a.data[i + c] - b.data[i + c]) / Math.max(1, rounding / 4))
    }
  }
  return most
}

it('is tried for every effect that there is', () => {
  const effects = LAYER_KINDS.filter(({ effect }) => effect).map(({ kind }) => kind)
  expect(Object.keys(TRIED).sort()).toEqual(effects.sort())
})

describe.each(Object.keys(TRIED))('the effect %s on what is half clear', (kind) => {
  it.each(Object.entries(GROUNDS))('looks as it does on opaque %s', async (_name, ground) => {
    const changes: number[] = []
    for (const colour of COLOURS) {
      const clear = await drawn(kind, { colour })
      const apart = laidOn(clear, ground)
      const plain = await drawn(kind, { colour, strength: 0 })
      changes.push(difference(apart, laidOn(plain, ground), clear))
      if (TRIED[kind]?.byPixel) {
        // As much of the colour that the effect makes of it as was there of it before.
        const whole = await drawn(kind, { colour, fills: true })
        const data = whole.data.map((value, i) => {
          const alpha = plain.data[i - (i % 4) + 3] / 255
          return i % 4 === 3 ? 255 : value * alpha + channels(ground)[i % 4] * (1 - alpha)
        })
        expect(difference(apart, { ...whole, data }, clear), colour).toBeLessThanOrEqual(4)
      } else {
        // A ground that glows lights what lies on it.
        if (kind === 'glow' && ground === GROUNDS.white && colour !== ground) continue
        const together = await drawn(kind, { colour, ground })
        // Sharpening overshoots its own colour and that of the ground, which only an opaque ground can show.
        const halo = kind === 'sharpen'
        // Grey behind what is half clear makes it bright enough to glow a little more.
        const most = kind === 'glow' && ground === GROUNDS.grey ? 20 : 4
        expect(difference(apart, together, clear, halo), colour).toBeLessThanOrEqual(most)
      }
    }
    // It does something to one of them at least.
    expect(Math.max(...changes)).toBeGreaterThan(5)
  })
})
