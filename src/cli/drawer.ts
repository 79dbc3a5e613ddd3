import { modelsIn } from '@/core/display'
import type { Loop } from '@/core/document'
import { evaluate } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import { judgeDrawn, type SeamReport } from '@/core/seam'
import { NodeRenderer, picturesInNode } from '../render/node'
import { BROWSERS, openPage } from './browser'
import { CommandError } from './command-error'

/** Draws frames of a loop at a size. */
export interface Drawer {
  readonly draw: (frame: number) => Promise<Picture>
  /** Remark on how the frames are drawn; null if there is none. */
  readonly said: string | null
  readonly end: () => Promise<void>
}

/** Whether a loop shows models, which Node cannot draw. */
export const showsModels = (loop: Loop): boolean =>
  loop.media.some(({ kind }) => kind === 'model') &&
  Array.from({ length: loop.length }, (_, n) => n).some((n) => modelsIn(evaluate(loop, n).nodes).length > 0)

/**
 * Drawer of a loop: this program, or an installed Chromium if the loop shows models.
 * @param browsers where Chromium may lie
 * @throws CommandError if there is none
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
  const page = await openPage(loop, width, height, browsers)
  if (!page)
    throw new CommandError(
      'This loop shows models, which an installed Chromium draws, and none was found. Install it (on Debian: apt install chromium), or say where it lies in CHROMIUM.',
    )
  return {
    said: `Models are drawn by ${page.browser}.`,
    draw: async (frame) => {
      const text = await page.ask('draw', frame)
      return { width, height, data: new Uint8ClampedArray(Buffer.from(text, 'base64')) }
    },
    end: page.end,
  }
}
