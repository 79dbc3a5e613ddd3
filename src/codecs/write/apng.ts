import { changedBox, changedPixels, type Picture, wordsOf } from '@/core/image'
import { type ApngPart, ApngWriter } from '../apng-write'
import type { Encoded, EncodeJob } from './job'

/** Pictures compressed at the same time, while others are drawn. */
const AT_ONCE = 6

/** Whether the frames of an opaque file lie over each other, with what stays left clear. By what the second of them takes. */
export async function liesOver({ timing, draw, tools }: EncodeJob): Promise<boolean> {
  if (timing.frames.length < 2) return false
  const first = await draw(0)
  const second = await draw(1)
  const part = changedBox(first, second)
  const pixels = changedPixels(first, second, part)
  if (!pixels) return false
  const how = tools.clearColours ? { clearAs: 0 } : { opaque: false }
  const left = await tools.png(pixels, how)
  const whole = await tools.png(second, { part, opaque: true })
  return left.length < whole.length
}

/** Colours that stand for clear pixels, 0xRRGGBB: the first that no frame has. Zeros are packed best. */
export const SELDOM = [0x00_00_01, 0x01_00_00, 0x00_01_00, 0x01_ff_02, 0xfe_01_fd] as const

/** Whether a picture has a pixel of an opaque colour. */
export function hasColour(picture: Picture, colour: number): boolean {
  const word = (255 << 24) | ((colour & 255) << 16) | (colour & 0xff00) | (colour >> 16)
  return wordsOf(picture).includes(word)
}

/**
 * Of each frame only the part that has changed is stored, and of that, where little of it has, only the pixels; the others are
 * clear: by a colour that no frame has, or by an alpha channel.
 */
export async function apng(job: EncodeJob): Promise<Encoded> {
  const over = !job.transparent && (await liesOver(job))
  const colours = over && job.tools.clearColours ? SELDOM : []
  for (const clear of colours) {
    const bytes = await written(job, over, clear)
    if (bytes) return { bytes, type: 'image/png' }
  }
  const bytes = await written(job, over, null)
  if (!bytes) throw new Error('The APNG could not be put together.')
  return { bytes, type: 'image/png' }
}

/** The change from one frame to the next: a PNG and its place. */
export async function apngPart(
  { width, height, transparent, tools }: EncodeJob,
  picture: Picture,
  before: Picture | null,
  { over, clear }: { readonly over: boolean; readonly clear: number | null },
): Promise<ApngPart> {
  const part = before ? changedBox(before, picture) : { x: 0, y: 0, width, height }
  const pixels = over && before ? changedPixels(before, picture, part) : null
  const open = clear === null ? { opaque: false } : { clearAs: clear }
  const whole = { opaque: !transparent && (!over || clear !== null) }
  const png = await (pixels ? tools.png(pixels, open) : tools.png(picture, { part, ...whole }))
  return { png, x: part.x, y: part.y, over: pixels !== null }
}

/** The file; null where a frame has the colour that stands for clear. */
async function written(job: EncodeJob, over: boolean, clear: number | null): Promise<Uint8Array<ArrayBuffer> | null> {
  const { width, height, timing, draw, progress } = job
  const writer = new ApngWriter(width, height, timing.delays, clear)
  const packing: Promise<ApngPart>[] = []
  let before: Picture | null = null
  for (let n = 0; n < timing.frames.length; n++) {
    const picture = await draw(n)
    if (clear !== null && hasColour(picture, clear)) return null
    const part = apngPart(job, picture, before, { over, clear })
    // One that fails does so where it is waited for.
    part.catch(() => {})
    packing.push(part)
    before = picture
    if (packing.length > AT_ONCE) writer.add(await (packing.shift() as Promise<ApngPart>))
    await progress(n + 1)
  }
  for (const part of packing) writer.add(await part)
  return writer.finish()
}
