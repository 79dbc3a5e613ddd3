import { ClipError } from '@/codecs/claims'
import type { Picture } from '@/core/image'
import { type Clip, MAX_CLIP_BYTES, MAX_PICTURE_BYTES, madeAsset } from '@/core/media'

/** How the frames of a clip can be kept in a document, the truest first. */
const WAYS = [
  { type: 'image/png', quality: 1, words: 'without loss' },
  { type: 'image/webp', quality: 0.92, words: 'as WebP of quality 92' },
  { type: 'image/webp', quality: 0.75, words: 'as WebP of quality 75' },
] as const
type Way = (typeof WAYS)[number]

/** Frames, spread over the clip, whose files are measured to choose a way. */
const MEASURED = 4
/** A clip may turn out larger than what was measured lets expect. */
const SAFETY = 0.8

async function fileOf({ width, height, data }: Picture, { type, quality }: Way): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(width, height)
  canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0)
  return new Uint8Array(await (await canvas.convertToBlob({ type, quality })).arrayBuffer())
}

/**
 * The frames of a clip as a document keeps them: in the truest way in which all of them are small enough.
 * @param progress is told how many frames are done; may throw to stop
 * @throws ClipError where they are too large in every way
 */
export async function storedFrames(
  count: number,
  frame: (n: number) => Promise<Picture>,
  progress: (frames: number) => Promise<void>,
): Promise<Pick<Clip, 'frames'> & { readonly how: string }> {
  const spread = Math.ceil(count / MEASURED)
  const samples: Picture[] = []
  for (let n = 0; n < count; n += spread) samples.push(await frame(n))
  for (const way of WAYS) {
    const sizes = await Promise.all(samples.map(async (picture) => (await fileOf(picture, way)).length))
    const mean = sizes.reduce((sum, size) => sum + size, 0) / sizes.length
    if (mean * count > SAFETY * MAX_CLIP_BYTES || Math.max(...sizes) > SAFETY * MAX_PICTURE_BYTES) continue
    const frames: Uint8Array<ArrayBuffer>[] = []
    let total = 0
    for (let n = 0; n < count; n++) {
      const file = await fileOf(await frame(n), way)
      total += file.length
      if (total > MAX_CLIP_BYTES || file.length > MAX_PICTURE_BYTES) break
      frames.push(file)
      await progress(n + 1)
    }
    if (frames.length === count) return { frames: await madeAsset(way.type, frames), how: way.words }
  }
  throw new ClipError(
    `${count} frames of this size are more than a loop keeps (${MAX_CLIP_BYTES / 1024 / 1024} MB). Crop the clip to the part that is to be repeated, or make it smaller.`,
  )
}
