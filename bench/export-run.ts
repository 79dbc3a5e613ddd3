import type { Page } from '@playwright/test'
import type { FileFormat } from '../src/core/clock'
import type { Loop } from '../src/core/document'
import { busyLoop } from './drawing'

/** Number of alternating measurements; the least counts, since other work on a machine only adds to it. */
const TIMES = 3
/** The formats that are compared, and the loop: 240 frames of 1280×720, twelve layers. */
export const MEASURED: readonly FileFormat[] = ['gif', 'mp4', 'webm', 'apng', 'webp']
export const longLoop = () => ({ ...busyLoop(12), length: 240, rate: { num: 30, den: 1 } })

/** The same with a blur of eight exposures a frame, a quarter as long: it takes longer to draw than to encode. */
export const blurredLoop = () => ({
  ...longLoop(),
  id: 'bench-blurred',
  length: 60,
  blur: { shutter: 180, samples: 8 },
})

export interface Exported {
  readonly format: FileFormat
  /** ms */
  readonly whole: number
  readonly alone: number
}

/**
 * Writing each format, drawing included, against encoding alone; both in the same worker, one after the other.
 * @param url of a page of the application, where the bundles of the workers are served besides
 */
export async function measureExports(
  page: Page,
  url: string,
  bundle: (entry: string) => Promise<string>,
): Promise<Exported[]> {
  // As the page itself, so that they may run on it.
  const headers = { 'content-type': 'text/javascript', 'cross-origin-embedder-policy': 'require-corp' }
  const scripts = {
    'bench-export.js': 'bench/exporting.ts',
    'bench-render.js': 'src/workers/inside/render.worker.ts',
  }
  // A worker that a worker starts is not served by routes of the page: its script stands in the one that starts it.
  const within = `URL.createObjectURL(new Blob([${JSON.stringify(await bundle('src/workers/inside/code.worker.ts'))}], { type: 'text/javascript' }))`
  for (const [name, entry] of Object.entries(scripts)) {
    const body = (await bundle(entry)).replace('new URL("./code.worker.ts", import.meta.url)', () => within)
    await page.route(`**/${name}`, (route) => route.fulfill({ headers, body }))
  }
  const comlink = await bundle('node_modules/comlink/dist/esm/comlink.mjs')
  await page.route('**/bench-comlink.js', (route) => route.fulfill({ headers, body: comlink }))
  await page.goto(url)
  // As text: what tsx adds to named functions is not known on the page.
  const measured = (await page.evaluate(`(async () => {
    const { wrap, transfer } = await import('/bench-comlink.js')
    const loop = ${JSON.stringify(longLoop())}
    const render = wrap(new Worker('/bench-render.js', { type: 'module' }))
    const bench = wrap(new Worker('/bench-export.js', { type: 'module' }))
    const lane = async () => {
      const { port1, port2 } = new MessageChannel()
      await render.lanes(loop, loop.width, loop.height, 192 * 1024 * 1024, transfer([port1], [port1]))
      return transfer(port2, [port2])
    }
    await bench.know(loop, await lane())
    const all = []
    for (const format of ${JSON.stringify(MEASURED)}) {
      let [whole, alone] = [Infinity, Infinity]
      for (let time = 0; time < ${TIMES}; time++) {
        whole = Math.min(whole, await bench.write(loop, format, await lane()))
        alone = Math.min(alone, await bench.write(loop, format, null))
      }
      all.push({ format, whole, alone })
    }
    return all
  })()`)) as Exported[]
  // While a page is routed, scripts of workers that workers start are never answered.
  await page.unrouteAll()
  return measured
}

/** All formats of a loop in one run of the queue against the sum of one run for each, proofs included; ms. */
export async function measureTogether(
  page: Page,
  base: string,
  loop: Loop,
  times = TIMES,
): Promise<{ together: number; alone: number[] }> {
  await page.goto(`${base}/`)
  await page.getByRole('button', { name: 'Open a file' }).waitFor()
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  const file = {
    name: 'bench.cyclon.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify(loop)),
  }
  await chooser.setFiles(file)
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('tab', { name: 'Queue' }).click()
  const names = { gif: 'GIF', mp4: 'MP4', webm: 'WebM', apng: 'APNG', webp: 'WebP' } as Record<FileFormat, string>
  const box = (format: FileFormat) => page.getByLabel(names[format], { exact: true })
  const run = async (formats: readonly FileFormat[]) => {
    for (const format of MEASURED) await box(format).setChecked(formats.includes(format))
    const start = performance.now()
    await page.getByRole('button', { name: /^Write \d+ files?$/ }).click()
    await page.waitForFunction(
      `(() => { const state = document.querySelector('[data-testid=queue-state]'); return state?.dataset.state === 'idle' && state.textContent.startsWith('${formats.length} of ${formats.length} done') })()`,
      null,
      // Asking at every frame would have the page drawn at every frame.
      { timeout: 600_000, polling: 200 },
    )
    const took = performance.now() - start
    await page.getByRole('button', { name: 'Empty the queue' }).click()
    return took
  }
  let together = Infinity
  const alone = MEASURED.map(() => Infinity)
  for (let time = 0; time < times; time++) {
    together = Math.min(together, await run(MEASURED))
    for (const [i, format] of MEASURED.entries()) alone[i] = Math.min(alone[i] as number, await run([format]))
  }
  return { together, alone }
}
