import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { z } from 'zod'
import { MAX_PIXELS } from '@/core/image'

/** The most frames, and bytes of all their pictures, that one request may carry. */
const MOST_FRAMES = 3000
const LARGEST = 512 * 1024 * 1024

const MANIFEST = 'manifest.json'
const nameOf = (n: number) => `${n}.png`

const manifestSchema = z
  .strictObject({
    width: z.int().min(1).max(16_383),
    height: z.int().min(1).max(16_383),
    lossless: z.boolean(),
    quality: z.int().min(1).max(100),
    /** Parts of the picture that change, at even places, and how long each frame is shown, ms. */
    frames: z
      .array(
        z.strictObject({
          x: z.int().min(0).max(16_382),
          y: z.int().min(0).max(16_382),
          delayMs: z.int().min(1).max(0xffffff),
        }),
      )
      .min(1)
      .max(MOST_FRAMES),
  })
  .refine(({ width, height }) => width * height <= MAX_PIXELS, 'has too many pixels')
  .refine(({ frames }) => frames.every(({ x, y }) => x % 2 === 0 && y % 2 === 0), 'has frames at odd places')
export type WebpManifest = z.infer<typeof manifestSchema>

/** What is asked of the server: an animated WebP of these parts, each a PNG file. */
export interface WebpRequest {
  readonly manifest: WebpManifest
  readonly pictures: readonly Uint8Array[]
}

/** A request as it is sent. */
export function packWebpRequest({ manifest, pictures }: WebpRequest): Uint8Array<ArrayBuffer> {
  const files = Object.fromEntries(pictures.map((bytes, n) => [nameOf(n), bytes]))
  return zipSync({ ...files, [MANIFEST]: strToU8(JSON.stringify(manifest)) }, { level: 0 }) as Uint8Array<ArrayBuffer>
}

/** A request as it came. @throws RangeError, in words, where it is none, or too large. */
export function unpackWebpRequest(bytes: Uint8Array): WebpRequest {
  try {
    let total = 0
    const files = unzipSync(bytes, {
      filter: ({ originalSize }) => {
        total += originalSize
        if (total > LARGEST) throw new RangeError('The request unpacks to more than is taken.')
        return true
      },
    })
    const manifest = manifestSchema.parse(JSON.parse(strFromU8(files[MANIFEST] ?? new Uint8Array())))
    const pictures = manifest.frames.map((_, n) => {
      const picture = files[nameOf(n)]
      if (!picture) throw new RangeError(`Picture ${n} is missing from the request.`)
      return picture
    })
    return { manifest, pictures }
  } catch (error) {
    if (error instanceof RangeError) throw error
    throw new RangeError('The request is no set of frames for a WebP.')
  }
}
