import { ColourCount, type Palette, type Picture } from '@/core/image'
import {
  codeGifFrame,
  GIF_TRAILER,
  type GifColours,
  type GifFrame,
  GifFrames,
  type MappedPicture,
  mapPicture,
  paletteOf,
} from './gif-encode'

/**
 * Number of frames that the palette is made from, spread over the loop: at least the first, at most the second if
 * memory allows.
 */
const PALETTE_FRAMES = { least: 12, most: 48 }
/** Frames that are being drawn while one is written. */
const AHEAD = 2
/** Frames that are being coded at a time, at the most. */
const CODING = 12

/** The work on a GIF that can be done frame by frame on any core: as mapPicture and codeGifFrame do it. */
export interface GifCoder {
  readonly map: (picture: Picture, palette: Palette, colours: GifColours, first: boolean) => Promise<MappedPicture>
  readonly code: (frame: GifFrame) => Promise<Uint8Array>
}
const HERE: GifCoder = {
  map: async (...picture) => mapPicture(...picture),
  code: async (frame) => codeGifFrame(frame),
}

/** Frames of one size to be written, each with its delay in hundredths of a second. */
export interface GifJob {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  readonly colours: GifColours
  /** Draws a frame of the file, elsewhere: it goes on while others are written. */
  readonly draw: (n: number) => Promise<Picture>
  /** Pictures that are kept after they have been written, so that the proof need not have them drawn again. */
  readonly mostKept: number
  /** Where frames are mapped and coded; here, where it is left out. */
  readonly coder?: GifCoder
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
  const { width, height, delaysCs, colours, draw, mostKept, progress, coder = HERE } = job
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
  const frames = new GifFrames(width, height, palette, colours)
  const parts: Promise<Uint8Array>[] = []
  const codeNext = async (frame: GifFrame | null) => {
    if (!frame) return
    const part = coder.code(frame)
    // A failure to code is reported where the part is awaited.
    part.catch(() => {})
    parts.push(part)
    await parts[parts.length - CODING]
  }
  let ownPalettes = 0
  const mapping = new Map<number, Promise<MappedPicture>>()
  const map = (n: number): Promise<MappedPicture> => {
    const asked = mapping.get(n) ?? ask(n).then((picture) => coder.map(picture, palette, colours, n === 0))
    asked.catch(() => {})
    mapping.set(n, asked)
    return asked
  }
  for (let n = 0; n < count; n++) {
    for (let ahead = n; ahead <= Math.min(n + AHEAD, count - 1); ahead++) void map(ahead)
    const picture = await take(n)
    const mapped = await map(n)
    mapping.delete(n)
    if (mapped.own) ownPalettes++
    await codeNext(frames.take(picture, delaysCs[n] as number, mapped))
    await progress(n + 1)
  }
  await codeNext(frames.last())
  return { bytes: joined([...(await Promise.all(parts)), GIF_TRAILER]), kept, ownPalettes }
}

function joined(parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of parts) {
    bytes.set(part, at)
    at += part.length
  }
  return bytes
}
