import { execFileSync } from 'node:child_process'
import { randomBytes } from 'node:crypto'
import type { Browser, Page } from '@playwright/test'
import sharp from 'sharp'
import { zipProject } from '../src/codecs/project'
import { insertLayers } from '../src/core/document'
import { newLayer } from '../src/core/edit'
import { type Clip, madeAsset } from '../src/core/media'
import { busyLoop } from './drawing'
import { type BudgetedView, kilobytes, SCRIPT_BUDGETS, scriptsOf } from './transfer'

/** Script that each view has sent to it. */
async function scriptRows(browser: Browser, port: number): Promise<string[]> {
  const rows: string[] = []
  for (const view of Object.keys(SCRIPT_BUDGETS) as BudgetedView[]) {
    const sent = await scriptsOf(browser, port, view)
    const page = kilobytes(sent.filter(({ worker }) => !worker))
    const { page: budget } = SCRIPT_BUDGETS[view]
    rows.push(
      `| script sent to the view ${view}, its workers not counted | its budget | ${page.toFixed(0)} kB against ${budget} kB; ${kilobytes(sent).toFixed(0)} kB with workers | ${(page / budget).toFixed(2)} | ≤ 1 |`,
    )
  }
  return rows
}

/** Everything that the command line can do, fetched at once from its source. */
const ALL_COMMANDS = `await Promise.all(['check', 'fit', 'join', 'render'].map((name) => import('./src/cli/' + name + '.ts')))`

/**
 * Time until the command line has answered `--help`, against loading all its commands from source: the least of several
 * alternating runs, ms.
 */
function startRow(): string {
  const run = (...command: string[]) => {
    const start = performance.now()
    execFileSync(process.execPath, command, { stdio: 'ignore' })
    return performance.now() - start
  }
  const [built, source]: [number[], number[]] = [[], []]
  for (let i = 0; i < 5; i++) {
    built.push(run('bin/cyclon.mjs', '--help'))
    source.push(run('--import', 'tsx', '-e', ALL_COMMANDS))
  }
  const a = Math.min(...built)
  const b = Math.min(...source)
  return `| the command line answers \`--help\` | all its commands fetched from their source by tsx | ${a.toFixed(0)} ms against ${b.toFixed(0)} ms | ${(a / b).toFixed(2)} | ≤ 0.25 |`
}

/** A project file with a clip of about 40 MB that is shown: frames of noise, which no packing makes smaller. */
async function heavyProject(): Promise<Buffer> {
  const width = 1280
  const height = 1280
  const frames: Uint8Array<ArrayBuffer>[] = []
  for (let i = 0; i < 8; i++) {
    const raw = randomBytes(width * height * 3)
    const png = await sharp(raw, { raw: { width, height, channels: 3 } })
      .png({ compressionLevel: 1 })
      .toBuffer()
    frames.push(new Uint8Array(png))
  }
  const clip: Clip = {
    kind: 'clip',
    id: 'spray',
    name: 'Spray',
    width,
    height,
    verdict: 'jumps',
    delaysMs: frames.map(() => 40),
    frames: await madeAsset('image/png', frames),
  }
  const layer = newLayer('clip', 'Spray', { clip: 'spray', x: 640, y: 360, width: 400, height: 400 }, 'spray-layer')
  const loop = insertLayers({ ...busyLoop(12), media: [clip] }, [layer])
  return Buffer.from(await zipProject(loop))
}

interface Saving {
  /** The longest holds of the page's thread between a change and the end of its save, ms, the shortest first. */
  readonly held: readonly number[]
  /** The same where the browser's storage is given nothing to write. */
  readonly without: readonly number[]
  /** The longest single write: what it holds the thread for, ms. */
  readonly write: number
}

/** How long the page's thread is held up while changes are saved, after 300 steps with media. */
async function measureSaving(page: Page, address: string) {
  await page.goto(address)
  await page.getByRole('button', { name: 'Open a file' }).waitFor()
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({ name: 'heavy.cyclon.zip', mimeType: 'application/zip', buffer: await heavyProject() })
  await page.getByText('saved in this browser').waitFor({ timeout: 120_000 })
  await page.getByRole('button', { name: 'Arc 0', exact: true }).click()
  // As text: what tsx adds to named functions is not known on the page.
  return (await page.evaluate(`(async () => {
    const label = [...document.querySelectorAll('label')].find(({ textContent }) => textContent === 'x')
    const field = document.getElementById(label.getAttribute('for'))
    const press = () => field.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))
    const state = () => document.body.innerText.includes('saved in this browser')
    const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
    const until = async (test) => { while (!test()) await pause(5) }
    for (let i = 0; i < 300; i++) { press(); if (i % 10 === 9) await pause(0) }
    await until(() => !state())
    await until(state)
    await pause(3000)
    // The longest gap between two turns of the page while one more change is saved. A second change within the pause of
    // the first is saved a moment later, when the page has shown it.
    const put = IDBObjectStore.prototype.put
    let write = 0, empty = false
    IDBObjectStore.prototype.put = function (value, ...key) {
      const start = performance.now()
      const request = put.call(this, empty ? 0 : value, ...key)
      write = Math.max(write, performance.now() - start)
      return request
    }
    const saved = { held: [], without: [] }
    for (let k = 0; k < 18; k++) {
      empty = k % 2 === 1
      press()
      await pause(100)
      press()
      await pause(180)
      let longest = 0, last = performance.now(), going = true
      const channel = new MessageChannel()
      channel.port1.onmessage = () => {
        const now = performance.now()
        longest = Math.max(longest, now - last)
        last = now
        if (going) channel.port2.postMessage(0)
      }
      channel.port2.postMessage(0)
      await until(state)
      await pause(50)
      going = false
      saved[empty ? 'without' : 'held'].push(longest)
      await pause(700)
    }
    for (const row of Object.values(saved)) row.sort((a, b) => a - b)
    return { ...saved, write }
  })()`)) as Saving
}

/** Rows about what is there before and behind the work: scripts, the command line, saving. */
export async function openingRows(browser: Browser, page: Page, port: number): Promise<string[]> {
  const saving = await measureSaving(page, `http://localhost:${port}/`)
  const middle = (row: readonly number[]) => row[row.length >> 1] as number
  const held = middle(saving.held)
  const without = middle(saving.without)
  return [
    ...(await scriptRows(browser, port)),
    startRow(),
    `| save a change, 300 steps of history, a clip of 40 MB: longest hold of the page's thread, middle of ${saving.held.length} | the same where storage is given nothing to write | ${held.toFixed(1)} ms (at most ${saving.held.at(-1)?.toFixed(1)}) against ${without.toFixed(1)} ms (at most ${saving.without.at(-1)?.toFixed(1)}); longest write ${saving.write.toFixed(1)} ms | ${(held / without).toFixed(2)} | under 16 ms |`,
  ]
}
