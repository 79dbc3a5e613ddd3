import { readFileSync } from 'node:fs'
import type { Browser, Page } from '@playwright/test'

/** Peak and current memory of a process, bytes; as Linux counts them. */
function memoryOf(pid: number): { peak: number; now: number } {
  const status = readFileSync(`/proc/${pid}/status`, 'utf8')
  const bytes = (name: string) => 1024 * Number(new RegExp(`${name}:\\s+(\\d+)`).exec(status)?.[1])
  return { peak: bytes('VmHWM'), now: bytes('VmRSS') }
}

export async function rendererIds(browser: Browser): Promise<number[]> {
  const session = await browser.newBrowserCDPSession()
  const { processInfo } = await session.send('SystemInfo.getProcessInfo')
  await session.detach()
  return processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id)
}

/** Peak memory of the tab while it reads and judges a file, above that before, bytes. */
export async function peakOfReading(browser: Browser, page: Page, url: string, file: Uint8Array): Promise<number> {
  await page.goto(url)
  await page.locator('[data-testid=file-view][data-ready=true]').waitFor()
  const ids = await rendererIds(browser)
  const before = new Map(ids.map((id) => [id, memoryOf(id).now]))
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'Open a file' }).click(),
  ])
  await chooser.setFiles({ name: 'lamp.gif', mimeType: 'image/gif', buffer: Buffer.from(file) })
  await page.getByTestId('compare').waitFor({ timeout: 300_000 })
  return Math.max(...ids.map((id) => memoryOf(id).peak - (before.get(id) ?? 0)))
}
