import { changedBox, changedPixels, type Picture } from '@/core/image'
import { ApngWriter } from '../apng-write'
import type { Encoded, EncodeJob } from './job'

/** So many pictures are being packed at a time, while others are drawn. */
const AT_ONCE = 6

/** Whether the frames of an opaque file lie over each other, with what stays left clear; else they have no alpha. By what the second of them takes. */
async function liesOver({ timing, draw, tools }: EncodeJob): Promise<boolean> {
  if (timing.frames.length < 2) return false
  const [first, second] = [await draw(0), await draw(1)]
  const part = changedBox(first, second)
  const pixels = changedPixels(first, second, part)
  if (!pixels) return false
  const [left, whole] = [await tools.png(pixels, { opaque: false }), await tools.png(second, { part, opaque: true })]
  return left.length < whole.length
}

/** Of each frame only the part that has changed is stored, and of that, where little of it has, only the pixels. */
export async function apng(job: EncodeJob): Promise<Encoded> {
  const { width, height, timing, transparent, draw, progress, tools } = job
  const writer = new ApngWriter(width, height, timing.delays)
  const packing: (() => Promise<void>)[] = []
  const over = !transparent && (await liesOver(job))
  let before: Picture | null = null
  for (let n = 0; n < timing.frames.length; n++) {
    const picture = await draw(n)
    const part = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    const pixels = over && before ? changedPixels(before, picture, part) : null
    const png = pixels
      ? tools.png(pixels, { opaque: false })
      : tools.png(picture, { part, opaque: !transparent && !over })
    // One that fails does so where it is waited for.
    png.catch(() => {})
    packing.push(async () => writer.add({ png: await png, x: part.x, y: part.y, over: pixels !== null }))
    before = picture
    if (packing.length > AT_ONCE) await packing.shift()?.()
    await progress(n + 1)
  }
  for (const add of packing) await add()
  return { bytes: writer.finish(), type: 'image/png' }
}
