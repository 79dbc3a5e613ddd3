import { changedBox, type Picture } from '@/core/image'
import { ApngWriter } from '../apng-write'
import type { Encoded, EncodeJob } from './job'

/** So many pictures are being packed at a time, while others are drawn. */
const AT_ONCE = 6

/** Of each frame only the part that has changed is stored. */
export async function apng({ width, height, timing, transparent, draw, progress, tools }: EncodeJob): Promise<Encoded> {
  const writer = new ApngWriter(width, height, timing.delays)
  const packing: (() => Promise<void>)[] = []
  let before: Picture | null = null
  for (let n = 0; n < timing.frames.length; n++) {
    const picture = await draw(n)
    const part = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    const png = tools.png(picture, { part, opaque: !transparent })
    // One that fails does so where it is waited for.
    png.catch(() => {})
    packing.push(async () => writer.add({ png: await png, x: part.x, y: part.y }))
    before = picture
    if (packing.length > AT_ONCE) await packing.shift()?.()
    await progress(n + 1)
  }
  for (const add of packing) await add()
  return { bytes: writer.finish(), type: 'image/png' }
}
