import { type Fraction, toNumber } from '@/core/clock'
import { changedBox, changedPixels, type Picture } from '@/core/image'
import { muxWebp, type WebpFrame } from '../webp-mux'
import type { Encoded, EncodeJob } from './job'

/** Pictures encoded at the same time, while others are drawn. */
const AT_ONCE = 3

/**
 * The change from one frame to the next: a still and its place.
 * @throws Error in the words of the image library
 */
export async function webpFrame(
  job: EncodeJob,
  n: number,
  picture: Picture,
  before: Picture | null,
): Promise<WebpFrame> {
  const { width, height, timing, settings, transparent, tools } = job
  const changed = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
  // Places in a WebP are even.
  const x = changed.x & ~1
  const y = changed.y & ~1
  const part = { x, y, width: changed.x + changed.width - x, height: changed.y + changed.height - y }
  // Only what is opaque can lie over what it replaces.
  const over = before && settings.lossless && !transparent ? changedPixels(before, picture, part) : null
  const png = await (over ? tools.png(over, { passing: true }) : tools.png(picture, { part, passing: true }))
  const still = await tools.webpStill(png, { ...settings, exact: settings.lossless && !over })
  return { still, ...part, delayMs: Math.round(1000 * toNumber(timing.delays[n] as Fraction)), over: over !== null }
}

/** The parts that change are written as stills by the image library, and put together here. @throws Error in its words */
export async function webp(job: EncodeJob): Promise<Encoded> {
  const { width, height, timing, transparent, draw, progress } = job
  const frames: Promise<WebpFrame>[] = []
  let before: Picture | null = null
  for (const n of timing.delays.keys()) {
    const picture = await draw(n)
    const frame = webpFrame(job, n, picture, before)
    // One that fails does so where it is waited for.
    frame.catch(() => {})
    frames.push(frame)
    before = picture
    if (n >= AT_ONCE) await frames[n - AT_ONCE]
    await progress(n + 1)
  }
  return { bytes: muxWebp(width, height, transparent, await Promise.all(frames)), type: 'image/webp' }
}
