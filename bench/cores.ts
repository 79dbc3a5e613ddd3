import { readFileSync } from 'node:fs'
import type { Browser, Page } from '@playwright/test'
import { longLoop } from './export-run'

/** Ticks of a second in which Linux counts the time of processes. */
const TICKS = 100

/** Seconds that all processes of the browser have computed until now. */
async function computed(browser: Browser): Promise<number> {
  const session = await browser.newBrowserCDPSession()
  const { processInfo } = await session.send('SystemInfo.getProcessInfo')
  await session.detach()
  let ticks = 0
  for (const { id } of processInfo) {
    // The name of the process stands in brackets and may hold anything; utime and stime are the 14th and 15th fields.
    const fields = readFileSync(`/proc/${id}/stat`, 'utf8').split(') ').at(-1)?.split(' ') ?? []
    ticks += Number(fields[11]) + Number(fields[12])
  }
  return ticks / TICKS
}

/** How many cores a GIF of 240 frames of 1280×720 keeps busy while it is drawn and written, before it is read back. */
export async function measureCores(
  browser: Browser,
  page: Page,
  base: string,
): Promise<{ cores: number; seconds: number }> {
  await page.goto(`${base}/`)
  await page.getByRole('button', { name: 'Open a file' }).waitFor()
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({
    name: 'bench.cyclon.json',
    mimeType: 'application/json',
    buffer: Buffer.from(JSON.stringify({ ...longLoop(), id: 'bench-cores' })),
  })
  await page.getByRole('link', { name: 'Export' }).click()
  await page.getByRole('tab', { name: 'Queue' }).click()
  await page.getByLabel('GIF', { exact: true }).setChecked(true)
  // The view has come to rest.
  await page.waitForTimeout(5000)
  await page.getByRole('button', { name: /^Write \d+ files?$/ }).click()
  const start = performance.now()
  const before = await computed(browser)
  await page.locator('[aria-label*="reading back"]').first().waitFor({ state: 'attached', timeout: 300_000 })
  const after = await computed(browser)
  const seconds = (performance.now() - start) / 1000
  await page.waitForFunction("document.querySelector('[data-testid=queue-state]')?.dataset.state === 'idle'", null, {
    timeout: 300_000,
    polling: 200,
  })
  // Whoever measures next begins with nothing in the queue.
  await page.getByRole('button', { name: 'Empty the queue' }).click()
  return { cores: (after - before) / seconds, seconds }
}
