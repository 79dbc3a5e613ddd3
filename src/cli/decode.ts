import sharp, { type Sharp } from 'sharp'
import { type DecodedGif, decodeGif } from '@/codecs'
import { ClipError, composeApng, type FileClaims, pngOfPart, readClaims, readPng } from '@/codecs/claims'
import { MAX_PIXELS, type Picture } from '@/core/image'

/** Decoded pixels that are held at once, bytes. */
const CEILING = 64 * 1024 * 1024

/**
 * The frames of a file as a viewer shows them, in order, at their full size; few of them are held at a time.
 * @throws ClipError where the picture data are damaged.
 */
export async function* decodeFrames(file: Uint8Array, claims: FileClaims): AsyncGenerator<Picture> {
  try {
    if (claims.format === 'apng') {
      const png = readPng(file)
      yield* composeApng(png, async (frame) => pixelsOf(sharp(pngOfPart(png, frame), OPTIONS)))
      return
    }
    const gif = claims.format === 'gif' ? wholeGif(file) : null
    if (gif?.clears) {
      yield* gif.frames()
      return
    }
    const { width, height, delaysMs } = claims
    const pages = delaysMs.length
    const atOnce = Math.max(1, Math.floor(CEILING / (width * height * 4)))
    for (let page = 0; page < pages; page += atOnce) {
      const count = Math.min(atOnce, pages - page)
      const strip = await pixelsOf(sharp(file, { ...OPTIONS, ...(pages > 1 ? { page, pages: count } : {}) }))
      const size = strip.width * (strip.height / count) * 4
      for (let i = 0; i < count; i++)
        yield { width: strip.width, height: strip.height / count, data: strip.data.slice(i * size, (i + 1) * size) }
    }
  } catch (error) {
    if (error instanceof ClipError) throw error
    throw new ClipError(`The picture data of the file are damaged: ${firstLine(error)}. Fetch or export it again.`)
  }
}

/** A GIF that is whole. One that clears frames is shown as viewers show it, where the image library restores some to black. */
function wholeGif(file: Uint8Array): DecodedGif | null {
  try {
    return decodeGif(file)
  } catch {
    // A truncated or damaged file is read by the image library, as far as it goes.
    return null
  }
}

const OPTIONS = { limitInputPixels: false, failOn: 'error', sequentialRead: true } as const

async function pixelsOf(image: Sharp): Promise<Picture> {
  const { width = 0, height = 0, pages = 1, pageHeight = height } = await image.metadata()
  if (width * pageHeight > MAX_PIXELS || pages < 1)
    throw new ClipError(
      `It decodes to ${width} × ${pageHeight} px, more than the ${Math.floor(MAX_PIXELS / 1e6)} million pixels that can be worked with. Make it smaller first.`,
    )
  const { data, info } = await image.toColourspace('srgb').ensureAlpha().raw().toBuffer({ resolveWithObject: true })
  return {
    width: info.width,
    height: info.height,
    data: new Uint8ClampedArray(data.buffer, data.byteOffset, data.length),
  }
}

const firstLine = (error: unknown): string => ((error as Error).message ?? String(error)).split('\n')[0]?.trim() ?? ''

/** The picture in a file, such as that of a texture. @throws ClipError where it cannot be decoded */
export async function pictureInNode(bytes: Uint8Array<ArrayBuffer>): Promise<Picture> {
  for await (const picture of decodeFrames(bytes, readClaims(bytes))) return picture
  throw new ClipError('It holds no picture.')
}
