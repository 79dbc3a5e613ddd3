import type { Picture } from '@/core/image'
import { type GifColours, GifWriter, paletteOf, palettePixels } from './gif-encode'

/** Frames that the palette is made from, spread over the loop. */
const PALETTE_FRAMES = 12
/** Pixels that are looked at for the palette, over all those frames. */
const PALETTE_PIXELS = 400_000
/** Frames that are being drawn while one is written. */
const AHEAD = 2

/** What is written: so many frames of one size, each with its delay in hundredths of a second. */
export interface GifJob {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  readonly colours: GifColours
  /** Draws a frame of the file, elsewhere: it goes on while others are written. */
  readonly draw: (n: number) => Promise<Picture>
  /** Pictures that are kept after they have been written, so that the proof need not have them drawn again. */
  readonly mostKept: number
  /** Is told how many frames have been written; may throw to stop. */
  readonly progress: (frames: number) => void | Promise<void>
}

/** Writes a GIF while its frames are being drawn. Returns the file, and the first pictures of it. */
export async function writeGif(job: GifJob): Promise<{ bytes: Uint8Array<ArrayBuffer>; kept: Map<number, Picture> }> {
  const { width, height, delaysCs, colours, draw, mostKept, progress } = job
  const count = delaysCs.length
  const kept = new Map<number, Picture>()
  const coming = new Map<number, Promise<Picture>>()
  const ask = (n: number): Promise<Picture> => {
    const known = kept.get(n)
    if (known) return Promise.resolve(known)
    const asked = coming.get(n) ?? draw(n)
    // A drawing that fails does so where it is waited for.
    asked.catch(() => {})
    coming.set(n, asked)
    return asked
  }
  const take = async (n: number): Promise<Picture> => {
    const picture = await ask(n)
    coming.delete(n)
    if (kept.size < mostKept) kept.set(n, picture)
    return picture
  }

  const spread = Math.ceil(count / PALETTE_FRAMES)
  const samples: Uint8Array[] = []
  for (let n = 0; n < count; n += spread) {
    if (n + spread < count) void ask(n + spread)
    samples.push(palettePixels(await take(n), PALETTE_PIXELS / PALETTE_FRAMES, colours.transparent))
  }
  void ask(0)
  const writer = new GifWriter(width, height, paletteOf(samples, colours.colours), colours)
  for (let n = 0; n < count; n++) {
    for (let ahead = n; ahead <= Math.min(n + AHEAD, count - 1); ahead++) void ask(ahead)
    writer.add(await take(n), delaysCs[n] as number)
    await progress(n + 1)
  }
  return { bytes: writer.finish(), kept }
}
