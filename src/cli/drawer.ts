import { existsSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { modelsIn } from '@/core/display'
import type { Loop } from '@/core/document'
import { evaluate } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import { assetsIn, filesOf } from '@/core/media'
import { judgeDrawn, type SeamReport } from '@/core/seam'
import { NodeRenderer, picturesInNode } from '../render/node'
import { CommandError } from './command-error'
import type { PageService } from './page'

/** Draws frames of a loop at a size. */
export interface Drawer {
  readonly draw: (frame: number) => Promise<Picture>
  /** What is to be said of how they are drawn; null where that is plain. */
  readonly said: string | null
  readonly end: () => Promise<void>
}

/** Whether a loop shows models, which Node cannot draw. */
export const showsModels = (loop: Loop): boolean =>
  loop.media.some(({ kind }) => kind === 'model') &&
  Array.from({ length: loop.length }, (_, n) => n).some((n) => modelsIn(evaluate(loop, n).nodes).length > 0)

/** Where browsers lie that draw models: the one that is named first. */
const BROWSERS = [
  process.env.CHROMIUM,
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
  '/Applications/Chromium.app/Contents/MacOS/Chromium',
  '/Applications/Google Chrome.app/Contents/MacOS/Google Chrome',
  'C:\\Program Files\\Google\\Chrome\\Application\\chrome.exe',
]

/** The page that models are drawn in: it may load what it makes itself, and nothing else. */
const PAGE =
  '<meta http-equiv="Content-Security-Policy" content="default-src \'none\'; script-src \'unsafe-inline\'; img-src blob: data:; connect-src blob: data:">'

/** The script of the page: beside the bundle, or where the bundle would be. */
const SCRIPT = ['page.js', '../../dist/page.js']
  .map((path) => join(import.meta.dirname, path))
  .find((path) => existsSync(path))

/**
 * What draws a loop: this program; or, where it shows models, an installed Chromium.
 * @param browsers where that may lie
 * @throws CommandError where there is none
 */
export async function drawerOf(
  loop: Loop,
  width: number,
  height: number,
  browsers: readonly (string | undefined)[] = BROWSERS,
): Promise<Drawer> {
  if (showsModels(loop)) return inBrowser(loop, width, height, browsers)
  const renderer = new NodeRenderer(width, height)
  const pictures = await picturesInNode(loop)
  return { draw: async (frame) => renderer.picture(loop, frame, pictures), said: null, end: async () => {} }
}

/** The seam of a loop's pictures at their own size. @throws Error where a picture of it is missing or cannot be decoded */
export async function seamInNode(loop: Loop): Promise<SeamReport> {
  const drawer = await drawerOf(loop, loop.width, loop.height)
  return judgeDrawn(loop.length, drawer.draw).finally(drawer.end)
}

async function inBrowser(
  loop: Loop,
  width: number,
  height: number,
  browsers: readonly (string | undefined)[],
): Promise<Drawer> {
  const executablePath = browsers.find((path) => path !== undefined && existsSync(path))
  if (!executablePath || !SCRIPT)
    throw new CommandError(
      'This loop shows models, which an installed Chromium draws, and none was found. Install it (on Debian: apt install chromium), or say where it lies in CHROMIUM.',
    )
  const { chromium } = await import('playwright-core')
  const args = ['--disable-gpu']
  // Chromium has no sandbox for root, nor where the system gives it none.
  const browser = await chromium
    .launch({ executablePath, args, chromiumSandbox: true })
    .catch(() => chromium.launch({ executablePath, args, chromiumSandbox: false }))
  try {
    // What is drawn was sent; nothing is fetched for it.
    const context = await browser.newContext({ offline: true })
    await context.route('**/*', (route) => route.abort())
    const page = await context.newPage()
    await page.setContent(PAGE)
    await page.addScriptTag({ content: await readFile(SCRIPT, 'utf8') })
    const files: Record<string, string> = {}
    for (const [id, file] of await filesOf(assetsIn(loop.media)))
      files[id] = Buffer.from(await file.arrayBuffer()).toString('base64')
    type Told = { readonly cyclon: PageService }
    await page.evaluate(
      ([of, held, across, down]) => (globalThis as unknown as Told).cyclon.know(of, held, across, down),
      [loop, files, width, height] as const,
    )
    return {
      said: `Models are drawn by ${executablePath}.`,
      draw: async (frame) => {
        const text = await page.evaluate((n) => (globalThis as unknown as Told).cyclon.draw(n), frame)
        return { width, height, data: new Uint8ClampedArray(Buffer.from(text, 'base64')) }
      },
      end: () => browser.close(),
    }
  } catch (error) {
    await browser.close()
    throw error
  }
}
