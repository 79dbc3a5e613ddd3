import { readdirSync, readFileSync } from 'node:fs'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { type Browser, chromium, type Page } from '@playwright/test'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { fraction } from '@/core/clock'
import { type Layer, type Loop, parseLoop } from '@/core/document'
import { newLayer, newLoop } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import type { Values } from '@/core/layers'
import type { Motion } from '@/core/motion'
import { inexpressible } from '@/core/output'
import { renderInNode } from '../../render/node'
import { lottieOf } from './lottie'
import { svgOf } from './svg'

/**
 * Vector files shown by others, the browser's own SVG and a player of Lottie, against our frames: bounds of the mean
 * difference of all channels, of 255. They differ in how edges are smoothed.
 */
const NEAR = { svg: 0.3, lottie: 0.8 }

const DEMO = new URL('../../../demo/loops/', import.meta.url)
const loops = readdirSync(DEMO)
  .filter((name) => name.endsWith('.cyclon.json'))
  .map((name) => parseLoop(readFileSync(new URL(name, DEMO), 'utf8')))
  .filter((loop) => !inexpressible(loop, 'svg').some(({ what }) => what.includes('cannot be drawn as vectors')))
  // Thousands of faces: a small lattice is tried below.
  .filter(({ name }) => name !== 'Harbour swell')
const player = readFileSync('node_modules/lottie-web/build/player/lottie_svg.min.js', 'utf8')

let browser: Browser
let page: Page
beforeAll(async () => {
  browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  })
  page = await browser.newPage()
})
afterAll(() => browser.close())

async function shot(width: number, height: number): Promise<Picture> {
  const image = await loadImage(await page.screenshot({ clip: { x: 0, y: 0, width, height } }))
  const context = createCanvas(width, height).getContext('2d')
  context.drawImage(image, 0, 0)
  return context.getImageData(0, 0, width, height) as unknown as Picture
}

function meanDifference(a: Picture, b: Picture): number {
  let sum = 0
  for (let i = 0; i < a.data.length; i += 4)
    for (let c = 0; c < 3; c++) sum += Math.abs((a.data[i + c] as number) - (b.data[i + c] as number))
  return sum / (a.data.length * 0.75)
}

/** The greatest mean difference of some frames, those at the seam among them. */
async function worst(loop: Loop, show: (frame: number) => Promise<unknown>): Promise<number> {
  const N = loop.length
  let most = 0
  for (const frame of [0, 1, Math.floor(N / 3), N - 1]) {
    await show(frame)
    const own = renderInNode(evaluate({ ...loop, background: loop.background ?? 'white' }, frame))
    most = Math.max(most, meanDifference(await shot(loop.width, loop.height), own))
  }
  return most
}

const empty = (loop: Loop, inside: string) =>
  page.setContent(
    `<body style="margin:0;background:white"><div id="at" style="width:${loop.width}px;height:${loop.height}px">${inside}</div></body>`,
  )

async function asSvg(loop: Loop) {
  await page.setViewportSize({ width: loop.width, height: loop.height })
  await empty(loop, svgOf(loop))
  await page.evaluate('document.querySelector("svg").style.display = "block"')
  return worst(loop, (frame) =>
    page.evaluate(
      `(() => { const svg = document.querySelector('svg'); svg.pauseAnimations(); svg.setCurrentTime(${(frame * loop.rate.den) / loop.rate.num + 1e-4}) })()`,
    ),
  )
}

async function asLottie(loop: Loop) {
  await page.setViewportSize({ width: loop.width, height: loop.height })
  await empty(loop, '')
  await page.addScriptTag({ content: player })
  await page.evaluate(
    `window.shown = lottie.loadAnimation({ container: document.getElementById('at'), renderer: 'svg', autoplay: false, animationData: ${JSON.stringify(lottieOf(loop))} }); shown.setSubframe(true)`,
  )
  return worst(loop, (frame) => page.evaluate(`shown.goToAndStop(${frame}, true)`))
}

describe('a loop as vectors', () => {
  it.each(loops.map((loop) => [loop.name, loop] as const))(
    'is shown by a browser as we draw it: %s as SVG',
    async (_, loop) => {
      expect(await asSvg(loop)).toBeLessThan(NEAR.svg)
    },
  )
  it.each(loops.map((loop) => [loop.name, loop] as const))(
    'is shown by a player as we draw it: %s as Lottie',
    async (_, loop) => {
      expect(await asLottie(loop)).toBeLessThan(NEAR.lottie)
    },
  )
  it('is shown by a browser with masks, filters, gradients, dashes and blends that move, as SVG', async () => {
    expect(await asSvg(everything())).toBeLessThan(NEAR.svg)
  })
  it('is shown by a player with masks, gradients, dashes and blends that move, as Lottie', async () => {
    const plain = everything()
    expect(inexpressible(plain, 'svg')).toEqual([])
    expect(inexpressible(plain, 'lottie')).toEqual([{ layer: 'Glowing', what: 'its effects are left out' }])
    const without = { ...plain, layers: plain.layers.filter(({ name }) => name !== 'Glowing') }
    expect(await asLottie(without)).toBeLessThan(NEAR.lottie)
  })
  it('masks by brightness and by darkness as it is drawn; a painted mask hides nothing, and is named', async () => {
    const plain = everything()
    const [one, two] = plain.layers.filter(({ name }) => name.startsWith('Cut ')) as [Layer, Layer]
    const by = (group: Layer, mask: string): Layer => ({ ...group, values: { ...group.values, mask } })
    const bright = { ...plain, layers: [by(one, 'brightness'), by(two, 'darkness')] }
    expect(inexpressible(bright, 'svg')).toEqual([])
    expect(await asSvg(bright)).toBeLessThan(NEAR.svg)
    expect(inexpressible(bright, 'lottie')).toEqual([
      { layer: 'Cut from it', what: 'its mask by darkness is left out' },
    ])
    expect(await asLottie({ ...bright, layers: [by(one, 'brightness')] })).toBeLessThan(NEAR.lottie)
    const strokes = [{ size: 20, softness: 0, strength: 1, points: [0, 0, 1] }]
    const painted = newLayer('brush', 'Painted', { strokes }, 'painted')
    const [bar] = one.layers as [Layer]
    const masked = { ...plain, layers: [{ ...one, layers: [bar, painted] }] }
    expect(inexpressible(masked, 'svg').map(({ layer }) => layer)).toEqual(['Painted'])
    const whole = { ...plain, layers: [{ ...one, values: { ...one.values, mask: 'none' }, layers: [bar] }] }
    expect(svgOf(masked).replace(/<title>.*<\/title>/, '')).toBe(svgOf(whole).replace(/<title>.*<\/title>/, ''))
  })
  it.each(['slant', 'perspective', 'from above'])('shows a lattice as it is drawn, its view %s', async (view) => {
    const swell = newLayer('lattice', 'Swell', {
      x: 80,
      y: 60,
      width: 160,
      height: 120,
      cellSize: 40,
      rise: 24,
      size: 90,
      warp: 0,
      twist: view === 'from above' ? 40 : 0,
      view,
    })
    const loop: Loop = { ...everything(), length: 24, loops: [], layers: [swell] }
    const sized = { ...loop, width: 160, height: 120, background: '#0b2230' }
    expect(await asSvg(sized)).toBeLessThan(NEAR.svg)
    expect(await asLottie(sized)).toBeLessThan(NEAR.lottie)
  })
  it('shows at another size what it shows at its own', async () => {
    const loop = everything()
    expect(svgOf(loop, 2)).toContain(`width="${2 * loop.width}" height="${2 * loop.height}"`)
    expect(lottieOf(loop, 2)).toMatchObject({ w: 2 * loop.width, h: 2 * loop.height })
  })
  it('holds no script, and nothing from elsewhere', () => {
    for (const loop of loops) {
      const text = svgOf({ ...loop, name: '<script>alert(1)</script>' })
      expect(text).not.toMatch(/<script|on[a-z]+=|href="http|url\(http/)
    }
  })
})

/** A layer of each kind of paint that a vector file must say, all of them moving. */
function everything(): Loop {
  const N = 24
  const moving = (from: number, to: number, after: Motion['after'] = 'repeat'): Motion => ({
    keys: [
      { at: 0, value: from, ease: 'linear' },
      ...(after === 'repeat'
        ? [{ at: 0.5, value: to, ease: 'linear' as const }]
        : [{ at: 1, value: to, ease: 'linear' as const }]),
    ],
    after,
    period: { cycles: 1 },
    phase: 0,
  })
  const layer = (
    kind: string,
    name: string,
    values: Values,
    motions: Layer['motions'] = {},
    layers?: readonly Layer[],
  ): Layer => ({
    ...newLayer(kind, name, values, name.toLowerCase().replaceAll(' ', '-')),
    motions,
    ...(layers ? { layers } : {}),
  })
  const bar = (name: string) =>
    layer(
      'rectangle',
      name,
      { x: 0, y: 0, width: 90, height: 26, fill: '#ef7f5f' },
      { rotation: moving(0, 360, 'accumulate') },
    )
  const hole = (name: string) =>
    layer('ellipse', name, { x: 0, y: 0, width: 44, height: 44, fill: '#f2b54a' }, { x: moving(-20, 20) })
  return {
    ...newLoop(
      {
        name: 'Everything',
        kind: 'loader',
        width: 360,
        height: 240,
        background: '#0a2231',
        rate: fraction(24),
        length: N,
      },
      'everything',
    ),
    layers: [
      layer(
        'rectangle',
        'Graded',
        { x: 70, y: 60, width: 110, height: 90, fill: '#f2b54a', fillKind: 'linear', fillTo: '#0f3b52' },
        { fillAngle: moving(0, 360, 'accumulate') },
      ),
      layer(
        'ellipse',
        'Round grade',
        { x: 190, y: 60, width: 90, height: 90, fill: '#f7ead0', fillKind: 'radial', fillTo: 'rgb(18 58 76 / 0.2)' },
        { opacity: moving(1, 0.3) },
      ),
      layer(
        'ellipse',
        'Dashed',
        { x: 300, y: 60, width: 80, height: 80, fill: null, stroke: '#79c9b4', strokeWidth: 8, dash: [20, 12] },
        { dashOffset: moving(0, 32, 'accumulate') },
      ),
      layer('group', 'Cut to it', { x: 70, y: 175, mask: 'shape' }, {}, [bar('Bar one'), hole('Hole one')]),
      layer('group', 'Cut from it', { x: 180, y: 175, mask: 'inverse' }, {}, [bar('Bar two'), hole('Hole two')]),
      layer(
        'polygon',
        'Multiplied',
        { x: 250, y: 120, width: 90, height: 90, fill: '#f2b54a', blend: 'multiply' },
        {
          scaleX: moving(1, 0.4),
          fill: {
            ...moving(0, 0),
            keys: [
              { at: 0, value: '#f2b54a', ease: 'linear' },
              { at: 0.5, value: '#79c9b4', ease: 'linear' },
            ],
          },
        },
      ),
      layer(
        'ellipse',
        'Glowing',
        {
          x: 310,
          y: 180,
          width: 50,
          height: 50,
          fill: '#f7ead0',
          glowColour: '#f2b54a',
          glowBlur: 10,
          shadowColour: '#00000088',
        },
        { blur: moving(0, 4), saturate: moving(1, 0.2) },
      ),
    ],
  }
}
