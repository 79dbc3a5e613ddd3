import { toNumber } from '@/core/clock'
import { changedBox, type Picture } from '@/core/image'
import type { Encoded, EncodeJob } from './job'

/** The frames are drawn here and put together by the image library. @throws Error in its words */
export async function webp({ width, height, timing, settings, draw, progress, tools }: EncodeJob): Promise<Encoded> {
  const pictures: Uint8Array[] = []
  const frames: { x: number; y: number; delayMs: number }[] = []
  let before: Picture | null = null
  for (const [n, delay] of timing.delays.entries()) {
    const picture = await draw(n)
    const changed = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    // Places in a WebP are even.
    const [x, y] = [changed.x & ~1, changed.y & ~1]
    const part = { x, y, width: changed.x + changed.width - x, height: changed.y + changed.height - y }
    pictures.push(await tools.png(picture, part))
    frames.push({ x, y, delayMs: Math.round(1000 * toNumber(delay)) })
    before = picture
    await progress(n)
  }
  const { lossless, quality } = settings
  const bytes = await tools.webp({ manifest: { width, height, lossless, quality, frames }, pictures })
  await progress(frames.length)
  return { bytes, type: 'image/webp' }
}
