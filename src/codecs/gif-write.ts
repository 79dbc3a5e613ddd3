import { ColourCount, deservesOwn, type Palette, type Picture, UNSEEN_ERROR } from '@/core/image'
import { type GifColours, GifWriter, paletteOf } from './gif-encode'

/** Frames that the palette is made from, spread over the loop: at least so many, and more where they can be kept. */
const PALETTE_FRAMES = { least: 12, most: 48 }
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

export interface WrittenGif {
  readonly bytes: Uint8Array<ArrayBuffer>
  /** The first pictures of the file, as they were drawn. */
  readonly kept: Map<number, Picture>
  /** Frames that have a palette of their own. */
  readonly ownPalettes: number
}

/** Writes a GIF while its frames are being drawn. */
export async function writeGif(job: GifJob): Promise<WrittenGif> {
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

  const { least, most } = PALETTE_FRAMES
  const spread = Math.ceil(count / Math.max(least, Math.min(most, mostKept)))
  const counted = new ColourCount()
  for (let n = 0; n < count; n += spread) {
    if (n + spread < count) void ask(n + spread)
    counted.add(await take(n), colours.transparent)
    if (colours.palettes === 'per frame') break
  }
  void ask(0)
  const palette = paletteOf(counted, colours.colours)
  const writer = new GifWriter(width, height, palette, colours)
  let ownPalettes = 0
  for (let n = 0; n < count; n++) {
    for (let ahead = n; ahead <= Math.min(n + AHEAD, count - 1); ahead++) void ask(ahead)
    const picture = await take(n)
    const own = n === 0 ? null : ownPalette(picture, palette, colours)
    if (own) ownPalettes++
    writer.add(picture, delaysCs[n] as number, own)
    await progress(n + 1)
  }
  return { bytes: writer.finish(), kept, ownPalettes }
}

/** A palette for one frame alone, where that is asked for or measured to be worth it. */
function ownPalette(
  picture: Picture,
  palette: Palette,
  { palettes, colours, transparent }: GifColours,
): Palette | null {
  if (palettes === 'one') return null
  const counted = new ColourCount()
  counted.add(picture, transparent)
  if (palettes === 'per frame') return paletteOf(counted, colours)
  const error = counted.error(palette)
  if (error <= UNSEEN_ERROR) return null
  const own = paletteOf(counted, colours)
  return deservesOwn(error, counted.error(own)) ? own : null
}
