import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'playwright-core'
import type { Loop } from '@/core/document'
import { assetsIn, filesOf } from '@/core/media'
import type { PageService } from './page'

/** Paths of Chromium, in order of preference; it draws what Node cannot. */
export const BROWSERS: readonly (string | undefined)[] = [
  process.env.CHROMIUM,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/Applications/Chromium.app/Contents/MacOS/Chromium',
  '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
  'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
]

/** The empty page that the script runs in. Its policy allows resources that the page makes itself, and no connection. */
const PAGE =
  "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; script-src 'unsafe-inline'; style-src 'unsafe-inline'; img-src blob: data:; connect-src blob: data:\">"

/** The script of the page: beside the bundle, or where the bundle would be. */
const SCRIPT = ['page.js', '../../dist/page.js']
  .map((path) => join(import.meta.dirname, path))
  .find((path) => existsSync(path))

/** A page of an installed browser that knows a loop. Whoever opens it ends it. */
export interface OpenPage {
  /** Where its browser lies. */
  readonly browser: string
  /** Calls a method of the service of the page. */
  readonly ask: <M extends keyof PageService>(
    method: M,
    ...given: Parameters<PageService[M]>
  ) => Promise<Awaited<ReturnType<PageService[M]>>>
  readonly end: () => Promise<void>
}

/**
 * Opens a page that draws a loop at a size, px, in an installed Chromium. It is offline and in its sandbox, where the system has one.
 * @param browsers where that may lie
 * @returns null where there is none
 */
export async function openPage(
  loop: Loop,
  width: number,
  height: number,
  browsers: readonly (string | undefined)[] = BROWSERS,
): Promise<OpenPage | null> {
  const executablePath = browsers.find((path) => path !== undefined && existsSync(path))
  if (!executablePath || !SCRIPT) return null
  const { chromium } = await import('playwright-core')
  const args = ['--disable-gpu']
  // Chromium has no sandbox for root, nor where the system gives it none.
  const browser = await chromium
    .launch({ executablePath, args, chromiumSandbox: true })
    .catch(() => chromium.launch({ executablePath, args, chromiumSandbox: false }))
  try {
    // The drawing was sent; nothing may be fetched.
    const context = await browser.newContext({ offline: true })
    await context.route('**/*', (route) => route.abort())
    const page = await context.newPage()
    await page.setContent(PAGE)
    await page.addScriptTag({ content: await readFile(SCRIPT, 'utf8') })
    const ask = asking(page)
    const files: Record<string, string> = {}
    for (const [id, file] of await filesOf(assetsIn(loop.media)))
      files[id] = Buffer.from(await file.arrayBuffer()).toString('base64')
    await ask('know', loop, files, width, height)
    return { browser: executablePath, ask, end: () => browser.close() }
  } catch (error) {
    await browser.close()
    throw error
  }
}

/** Calls the service of a page by the names of its methods. */
const asking =
  (page: Page): OpenPage['ask'] =>
  (method, ...given) =>
    page.evaluate(
      ([name, what]) => {
        type Told = { readonly cyclon: Readonly<Record<string, (...args: readonly unknown[]) => never>> }
        return (globalThis as unknown as Told).cyclon[name]?.(...what) as never
      },
      [method, given] as const,
    )
