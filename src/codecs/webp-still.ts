import sharp from 'sharp'
import { MAX_PIXELS } from '@/core/image'

/** How hard the library looks for a shorter file, 0 … 6. What is clear for the most part it packs best with less. */
const EFFORT = 4
const EFFORT_WHERE_OPEN = 1

/** How a still is written: without loss, or at a quality from 1 to 100. */
export interface StillOptions {
  readonly lossless: boolean
  readonly quality: number
  /** Whether clear pixels keep the colour that nobody sees. */
  readonly exact: boolean
}

/** A PNG file as a WebP file, in Node. @throws Error of the image library where it is no picture, or too large a one */
export async function webpStill(
  png: Uint8Array,
  { lossless, quality, exact }: StillOptions,
): Promise<Uint8Array<ArrayBuffer>> {
  const picture = sharp(png, { limitInputPixels: MAX_PIXELS })
  return new Uint8Array(
    await picture
      .webp({ lossless, quality, exact, effort: lossless && !exact ? EFFORT_WHERE_OPEN : EFFORT })
      .toBuffer(),
  )
}
