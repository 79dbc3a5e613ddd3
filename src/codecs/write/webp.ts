import { toNumber } from '@/core/clock'
import { changedBox, changesOnly, type Picture } from '@/core/image'
import type { Box } from '@/core/path'
import { muxWebp, type WebpFrame } from '../webp-mux'
import type { Encoded, EncodeJob } from './job'

/** So many pictures are being written at a time, while others are drawn. */
const AT_ONCE = 3
/** At every so many frames it is tried anew what is lighter: the part that has changed, or its changed pixels alone. */
const TRIED_EVERY = 6

type Still = Pick<WebpFrame, 'still' | 'over'>

/**
 * The parts that change are written as stills by the image library, and put together here: without loss as they are, or only
 * those of their pixels that have changed, whichever was lighter last time. @throws Error in its words
 */
export async function webp(job: EncodeJob): Promise<Encoded> {
  const { width, height, timing, settings, transparent, draw, progress, tools } = job
  const whole = async (picture: Picture, part: Box): Promise<Still> => ({
    still: await tools.webpStill(await tools.png(picture, { part }), settings),
  })
  const over = async (changes: Picture): Promise<Still> => ({
    still: await tools.webpStill(await tools.png(changes, { opaque: false }), settings),
    over: true,
  })
  const frames: Promise<WebpFrame>[] = []
  let before: Picture | null = null
  let changesAreLighter = false
  for (const [n, delay] of timing.delays.entries()) {
    const picture = await draw(n)
    const changed = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    // Places in a WebP are even.
    const [x, y] = [changed.x & ~1, changed.y & ~1]
    const part = { x, y, width: changed.x + changed.width - x, height: changed.y + changed.height - y }
    const changes = before && settings.lossless ? changesOnly(before, picture, part) : null
    let still: Promise<Still>
    if (changes && n % TRIED_EVERY === 1) {
      const [asItIs, laidOver] = await Promise.all([whole(picture, part), over(changes)])
      changesAreLighter = laidOver.still.length < asItIs.still.length
      still = Promise.resolve(changesAreLighter ? laidOver : asItIs)
    } else still = changes && changesAreLighter ? over(changes) : whole(picture, part)
    const frame = still.then((each) => ({ ...each, ...part, delayMs: Math.round(1000 * toNumber(delay)) }))
    // One that fails does so where it is waited for.
    frame.catch(() => {})
    frames.push(frame)
    before = picture
    if (n >= AT_ONCE) await frames[n - AT_ONCE]
    await progress(n + 1)
  }
  return { bytes: muxWebp(width, height, transparent, await Promise.all(frames)), type: 'image/webp' }
}
