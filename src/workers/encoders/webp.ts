import { packWebpRequest } from '@/codecs/webp-request'
import { toNumber } from '@/core/clock'
import { changedBox, type Picture } from '@/core/image'
import { type Encoded, type EncodeJob, pngOf } from './job'

/** The frames are drawn here and written by the server, which keeps nothing. @throws Error in the server's words */
export async function webp({ width, height, timing, options, draw, progress }: EncodeJob): Promise<Encoded> {
  const pictures: Uint8Array[] = []
  const frames: { x: number; y: number; delayMs: number }[] = []
  let before: Picture | null = null
  for (const [n, delay] of timing.delays.entries()) {
    const picture = await draw(n)
    const changed = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    // Places in a WebP are even.
    const [x, y] = [changed.x & ~1, changed.y & ~1]
    const part = { x, y, width: changed.x + changed.width - x, height: changed.y + changed.height - y }
    pictures.push(await pngOf(picture, part))
    frames.push({ x, y, delayMs: Math.round(1000 * toNumber(delay)) })
    before = picture
    await progress(n)
  }
  const { lossless, quality } = options
  const body = packWebpRequest({ manifest: { width, height, lossless, quality, frames }, pictures })
  const answer = await fetch('/api/webp', { method: 'POST', body }).catch(() => null)
  if (!answer) throw new Error('The server that writes WebP cannot be reached. Try again, or choose another format.')
  if (!answer.ok) {
    const { message } = (await answer.json().catch(() => ({}))) as { message?: string }
    throw new Error(message ?? `The server could not write the WebP (${answer.status}).`)
  }
  await progress(frames.length)
  return { bytes: new Uint8Array(await answer.arrayBuffer()), type: 'image/webp', ending: '.webp' }
}
