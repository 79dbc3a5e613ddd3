import { changedBox, type Picture } from '@/core/image'
import { ApngWriter } from '../apng-write'
import type { Encoded, EncodeJob } from './job'

/** Of each frame only the part that has changed is stored. */
export async function apng({ width, height, timing, draw, progress, tools }: EncodeJob): Promise<Encoded> {
  const writer = new ApngWriter(width, height, timing.delays)
  let before: Picture | null = null
  for (let n = 0; n < timing.frames.length; n++) {
    const picture = await draw(n)
    const part = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
    writer.add({ png: await tools.png(picture, part), x: part.x, y: part.y })
    before = picture
    await progress(n + 1)
  }
  return { bytes: writer.finish(), type: 'image/png' }
}
