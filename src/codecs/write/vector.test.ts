import { readdirSync, readFileSync } from 'node:fs'
import { createCanvas, loadImage } from '@napi-rs/canvas'
import { type Browser, chromium, type Page } from '@playwright/test'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { evaluate, type Loop, parseLoop } from '@/core/loop'
import { renderInNode } from '../../render/node'
import { lottieOf } from './lottie'
import { svgOf } from './svg'

/**
 * Vector files as others show them, the browser's own SVG and a player of Lottie, against our frames: the mean difference of
 * all channels stays under so many of 255. What differs is how edges are smoothed.
 */
const NEAR = { svg: 0.3, lottie: 0.8 }

const DEMO = new URL('../../../demo/loops/', import.meta.url)
const loops = readdirSync(DEMO).map((name) => parseLoop(readFileSync(new URL(name, DEMO), 'utf8')))
const player = readFileSync('node_modules/lottie-web/build/player/lottie_svg.min.js', 'utf8')

let browser: Browser
let page: Page
beforeAll(async () => {
  browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  })
  page = await browser.newPage()
}, 60_000)
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
})
