import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { chromium, type Page } from '@playwright/test'
import { build } from 'esbuild'
import { CHROMIUM, SWITCHES } from '../scripts/browsers.mjs'
import type { Loop } from '../src/core/document'
import { fitAt, fitFront, SAME_ERROR } from '../src/core/fit'
import { clipRows } from './clips'
import { commandLineRows } from './command-line'
import { busyLoop, CHANGE_PAUSE_MS, CHANGES } from './drawing'
import { effectRows } from './effects'
import { exportRows } from './export-rows'
import { footageRows, footageTables } from './footage'
import { busyGif, measureJudging } from './judging'
import { manyRows } from './many'
import { modelRows } from './models'
import { openingRows } from './opening'
import { peakOfReading } from './reading'
import { roundRows } from './rounds'
import { textureRows } from './texture'

/** `npm run bench`: measures in real Chromium and prints a table of ratios; docs/performance.md holds the last one. */
const PORT = 3220
/** Playback is measured over several windows; the median counts. */
const WINDOWS = 5
const SECONDS = 2

interface Drawn {
  readonly frames: readonly { readonly what: string; readonly evaluate: number; readonly draw: number }[]
  readonly gif: { readonly whole: number; readonly encodeAlone: number; readonly ratio: number }
  readonly drawOne: number
}

const bundled = async (entry: string): Promise<string> => {
  const { outputFiles } = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    format: 'esm',
    alias: { '@': './src' },
    mainFields: ['module', 'main'],
  })
  return outputFiles[0]?.text ?? ''
}

/** Runs bench/in-browser.ts in a worker of the page. */
async function measureDrawing(page: Page): Promise<Drawn> {
  const code = await Promise.all(['bench/in-browser.ts', 'src/workers/inside/render.worker.ts'].map(bundled))
  return page.evaluate(([bench, render]) => {
    const url = URL.createObjectURL(new Blob([bench ?? ''], { type: 'text/javascript' }))
    const worker = new Worker(url, { type: 'module' })
    return new Promise<Drawn>((resolve, reject) => {
      worker.onmessage = ({ data }) => resolve(data)
      worker.onerror = ({ message }) => reject(new Error(message))
      worker.postMessage(render)
    })
  }, code)
}

async function openBusyLoop(page: Page, layers: number): Promise<void> {
  await openLoop(page, busyLoop(layers))
}

/** Opens a loop in the application, and waits until all its frames are cached. */
async function openLoop(page: Page, loop: Loop): Promise<void> {
  await page.goto(`http://localhost:${PORT}/`)
  await page.getByRole('button', { name: 'Open a file' }).waitFor()
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({
    name: 'bench.cyclon.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(loop)),
  })
  await page.getByTestId('cached').waitFor({ state: 'attached' })
  await page.waitForFunction(
    (count) => document.querySelector('[data-testid=cached]')?.getAttribute('data-count') === String(count),
    loop.length,
    { timeout: 120_000 },
  )
  await page.waitForTimeout(1500)
}

/** Main-thread time while playing 60 frames per second from the cache, as a share of the time that passes. */
async function measurePlaying(page: Page) {
  const session = await page.context().newCDPSession(page)
  await session.send('Performance.enable')
  const taskTime = async () => {
    const { metrics } = await session.send('Performance.getMetrics')
    return metrics.find(({ name }) => name === 'TaskDuration')?.value ?? Number.NaN
  }
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await page.waitForTimeout(1500)
  const shares: number[] = []
  const rates: number[] = []
  for (let i = 0; i < WINDOWS; i++) {
    const start = [await taskTime(), performance.now()] as const
    await page.waitForTimeout(SECONDS * 1000)
    const end = [await taskTime(), performance.now()] as const
    shares.push(((end[0] - start[0]) * 1000) / (end[1] - start[1]))
    rates.push(Number.parseFloat((await page.getByTestId('measured-rate').textContent()) ?? ''))
  }
  await page.getByRole('button', { name: 'Stop' }).click()
  const middle = (values: number[]) => values.sort((a, b) => a - b)[WINDOWS >> 1] as number
  return { share: middle(shares), shown: middle(rates) }
}

/** Has the workers of the page draw what they have been told to before they look at the clock: one pixel is read back. */
async function clockAfterDrawing(page: Page): Promise<void> {
  for (const worker of page.workers())
    await worker.evaluate(() => {
      const { prototype } = OffscreenCanvasRenderingContext2D
      const { clearRect } = prototype
      const now = performance.now.bind(performance)
      let drawn: OffscreenCanvasRenderingContext2D | null = null
      prototype.clearRect = function (...area) {
        drawn = this
        return clearRect.apply(this, area)
      }
      performance.now = () => {
        drawn?.getImageData(0, 0, 1, 1)
        drawn = null
        return now()
      }
    })
}

/** Time from a changed value to the new frame on the stage's canvas, ms: the median of all changes. */
async function measureChange(page: Page): Promise<number> {
  await clockAfterDrawing(page)
  await page.getByRole('button', { name: 'Go to the seam' }).click()
  await page.getByRole('button', { name: 'Arc 0', exact: true }).click()
  return page.evaluate(
    async ([count, pause]) => {
      const canvas = document.querySelector('[data-testid=stage] canvas')
      const label = [...document.querySelectorAll('label')].find(({ textContent }) => textContent === 'x')
      const field = document.getElementById(label?.getAttribute('for') ?? '')
      if (!canvas || !field) throw new Error('the stage is not there')
      const times: number[] = []
      for (let i = 0; i < (count ?? 0); i++) {
        await new Promise((resolve) => setTimeout(resolve, pause))
        const drawn = new Promise<number>((resolve) => {
          canvas.addEventListener('shown', (event) => resolve((event as CustomEvent<number>).detail), { once: true })
        })
        const start = performance.timeOrigin + performance.now()
        field.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))
        times.push((await drawn) - start)
      }
      return times.sort((a, b) => a - b)[times.length >> 1] as number
    },
    [CHANGES, CHANGE_PAUSE_MS],
  )
}

/**
 * Frames that are shown on the stage while a key is dragged round the dial, against frames of the display: the pointer is
 * moved once in each of those.
 */
async function measureBeadDrag(page: Page): Promise<{ shown: number; display: number }> {
  await openBusyLoop(page, 48)
  // With many layers, the dial shows the keys of the selected ones.
  await page.getByRole('button', { name: 'Dot 1', exact: true }).click()
  const bead = page.getByRole('slider', { name: /^Dot 1, y, key 2$/ }).first()
  const at = await bead.boundingBox()
  if (!at) throw new Error('the dial has no such key')
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2)
  await page.mouse.down()
  // As text: what tsx adds to named functions is not known on the page.
  const counts = await page.evaluate(`new Promise((resolve) => {
    const [x, y] = [${at.x + at.width / 2}, ${at.y + at.height / 2}]
    const bead = document.elementFromPoint(x, y)
    const dial = document.querySelector('[aria-label=Dial]').getBoundingClientRect()
    const middle = { x: dial.x + dial.width / 2, y: dial.y + dial.height / 2 }
    const [radius, start] = [Math.hypot(x - middle.x, y - middle.y), Math.atan2(y - middle.y, x - middle.x)]
    const counts = { shown: 0, display: 0 }
    document.querySelector('[data-testid=stage] canvas').addEventListener('shown', () => counts.shown++)
    const until = performance.now() + 5000
    const tick = () => {
      if (performance.now() > until) return resolve(counts)
      const angle = start + 0.9 * Math.sin(counts.display++ / 9)
      const to = { clientX: middle.x + radius * Math.cos(angle), clientY: middle.y + radius * Math.sin(angle) }
      bead.dispatchEvent(new PointerEvent('pointermove', { ...to, pointerId: 1, bubbles: true, altKey: true }))
      requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
  })`)
  await page.mouse.up()
  return counts as { shown: number; display: number }
}

/** The front of twelve motions over lengths up to 10,000, against working out every length and comparing all pairs. */
function measureFit() {
  const motions = Array.from({ length: 12 }, (_, i) => ({
    frames: 17.3 + 11.7 * i + (i % 5) * 0.37,
    fold: 1 + (i % 3),
  }))
  const most = 10_000
  const brute = () => {
    const all = Array.from({ length: most }, (_, i) => fitAt(motions, i + 1))
    return all.filter((point, i) => !all.slice(0, i).some((other) => other.worstError <= point.worstError + SAME_ERROR))
  }
  const time = <T>(work: () => T, times: number) => {
    const runs = Array.from({ length: times }, () => {
      const start = performance.now()
      work()
      return performance.now() - start
    })
    return runs.sort((a, b) => a - b)[times >> 1] as number
  }
  if (JSON.stringify(fitFront(motions, most)) !== JSON.stringify(brute())) throw new Error('the two fronts differ')
  return { front: time(() => fitFront(motions, most), 21), brute: time(brute, 3), points: brute().length }
}

/** All rows but those about files. */
async function interactionRows(page: Page): Promise<string[]> {
  const { frames, gif, drawOne } = await measureDrawing(page)
  await openBusyLoop(page, 12)
  const playing = await measurePlaying(page)
  const change = await measureChange(page)
  const drag = await measureBeadDrag(page)
  const fit = measureFit()
  const file = busyGif()
  const judging = await measureJudging(file)
  const reading = await peakOfReading(browser, page, `http://localhost:${PORT}/file`, file)

  const ms = (value: number) => `${value.toFixed(value < 1 ? 3 : 1)} ms`
  return [
    ...frames.map(
      ({ what, evaluate, draw }) =>
        `| evaluate one frame, ${what} | draw it | ${ms(evaluate)} against ${ms(draw)} | ${(evaluate / draw).toFixed(3)} | |`,
    ),
    `| whole GIF export, 60 frames, 12 layers | encode the same frames, already drawn | ${ms(gif.whole)} against ${ms(gif.encodeAlone)} | ${gif.ratio.toFixed(2)} | ≤ 1.25 |`,
    `| play from the cache at 60/s: main-thread time per frame | time of a frame, 16.7 ms | ${ms(playing.share * (1000 / 60))}; shown ${playing.shown}/s | ${playing.share.toFixed(3)} | < 0.15 |`,
    `| change a value → new frame on the stage, 12 layers | evaluate and draw that frame | ${ms(change)} against ${ms(drawOne)} | ${(change / drawOne).toFixed(2)} | ≤ 2 |`,
    `| drag a key round the dial, 48 layers: frames shown on the stage | frames of the display in that time | ${drag.shown} against ${drag.display} | ${(drag.shown / drag.display).toFixed(2)} | ≥ 0.9 |`,
    `| Fit: the front of 12 motions up to 10,000 f, ${fit.points} lengths | every length worked out, all compared | ${ms(fit.front)} against ${ms(fit.brute)} | ${(fit.front / fit.brute).toFixed(4)} | ≤ 0.1 |`,
    `| the same | time of a frame, 16.7 ms | ${ms(fit.front)} | ${(fit.front / (1000 / 60)).toFixed(2)} | < 1 |`,
    `| judge 300 frames of a GIF, in Node | decode them | ${ms(judging.judge)} against ${ms(judging.decode)} | ${(judging.judge / judging.decode).toFixed(2)} | ≤ 0.5 |`,
    `| their step series at all scales | one plain pass over all pixels | ${ms(judging.series)} against ${ms(judging.allPixels)} | ${(judging.series / judging.allPixels).toFixed(3)} | |`,
    `| what judging holds of them | its ceiling, 128 MB | ${(judging.held / 2 ** 20).toFixed(1)} MB | ${(judging.held / 2 ** 27).toFixed(2)} | ≤ 1 |`,
    `| the tab at its highest while it reads and judges them | ceilings of what it keeps: 192 MB of frames, 128 MB of descriptors, 64 MB at full size | ${(reading / 2 ** 20).toFixed(0)} MB | ${(reading / (384 * 2 ** 20)).toFixed(2)} | |`,
  ]
}

/** `opening`, `interaction`, `many`, `rounds`, `clips`, `texture`, `effects`, `models`, `command-line` or `files`, where only a part is wanted. */
const only = process.argv[2]
const server = spawn('npx', ['next', 'start', '-p', String(PORT)], { stdio: 'ignore', detached: true })
const browser = await chromium.launch({ executablePath: CHROMIUM, args: SWITCHES })
try {
  const page = await browser.newPage({ viewport: { width: 1920, height: 1240 }, serviceWorkers: 'block' })
  await page.addInitScript(() => Reflect.deleteProperty(window, 'showOpenFilePicker'))
  for (let tries = 0; ; tries++) {
    try {
      await page.goto(`http://localhost:${PORT}/`)
      break
    } catch (error) {
      if (tries > 40) throw error
      await new Promise((resolve) => setTimeout(resolve, 500))
    }
  }
  const lines = [
    '| measured at 1280×720 | alternative | figure | ratio | goal |',
    '|---|---|--:|--:|--:|',
    ...(only && only !== 'opening' ? [] : await openingRows(browser, page, PORT)),
    ...(only && only !== 'interaction' ? [] : await interactionRows(page)),
    ...(only && only !== 'many' ? [] : await manyRows(page, (loop) => openLoop(page, loop))),
    ...(only && only !== 'rounds' ? [] : await roundRows(page, `http://localhost:${PORT}/`)),
    ...(only && only !== 'clips' ? [] : await clipRows(browser, page, `http://localhost:${PORT}/`)),
    ...(only && only !== 'texture' ? [] : textureRows()),
    ...(only && only !== 'effects' ? [] : effectRows()),
    ...(only && only !== 'footage' ? [] : await footageRows()),
    ...(only && only !== 'models'
      ? []
      : await modelRows(page, await bundled('bench/models-in-browser.ts'), `http://localhost:${PORT}/`)),
    ...(only && only !== 'command-line' ? [] : commandLineRows()),
    ...(only && only !== 'files' ? [] : await exportRows(browser, page, `http://localhost:${PORT}`, bundled)),
  ]
  process.stdout.write(`${lines.join('\n')}\n`)
  if (only === 'footage') process.stdout.write(`${(await footageTables()).join('\n')}\n`)
  if (!only) writeFileSync('bench/last.md', `${lines.join('\n')}\n`)
} finally {
  await browser.close()
  if (server.pid && server.exitCode === null && server.signalCode === null) process.kill(-server.pid)
}
