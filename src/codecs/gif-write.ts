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

/** Pictures of a file, drawn ahead of their use; the first ones are kept. */
class PicturesAhead {
  readonly kept = new Map<number, Picture>()
  private readonly coming = new Map<number, Promise<Picture>>()
  constructor(
    private readonly draw: GifJob['draw'],
    private readonly mostKept: number,
  ) {}

  /** Asks for a picture. A failure to draw is reported where the picture is awaited. */
  ask(n: number): Promise<Picture> {
    const known = this.kept.get(n)
    if (known) return Promise.resolve(known)
    const asked = this.coming.get(n) ?? this.draw(n)
    asked.catch(() => {})
    this.coming.set(n, asked)
    return asked
  }

  async take(n: number): Promise<Picture> {
    const picture = await this.ask(n)
    this.coming.delete(n)
    if (this.kept.size < this.mostKept) this.kept.set(n, picture)
    return picture
  }
}

/** The palette of a file from frames spread over the loop, or from the first one if each frame has its own. */
async function paletteFor({ delaysCs, colours, mostKept }: GifJob, pictures: PicturesAhead): Promise<Palette> {
  const count = delaysCs.length
  const { least, most } = PALETTE_FRAMES
  const spread = Math.ceil(count / Math.max(least, Math.min(most, mostKept)))
  const counted = new ColourCount()
  for (let n = 0; n < count; n += spread) {
    if (n + spread < count) void pictures.ask(n + spread)
    counted.add(await pictures.take(n), colours.transparent)
    if (colours.palettes === 'per frame') break
  }
  void pictures.ask(0)
  return paletteOf(counted, colours.colours)
}

/** Writes a GIF while its frames are being drawn. */
export async function writeGif(job: GifJob): Promise<WrittenGif> {
  const { width, height, delaysCs, colours, draw, mostKept, progress, coder = HERE } = job
  const pictures = new PicturesAhead(draw, mostKept)
  const palette = await paletteFor(job, pictures)
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
  const mapping = new Map<number, Promise<MappedPicture>>()
  const map = (n: number): Promise<MappedPicture> => {
    const asked = mapping.get(n) ?? pictures.ask(n).then((picture) => coder.map(picture, palette, colours, n === 0))
    asked.catch(() => {})
    mapping.set(n, asked)
    return asked
  }
  let ownPalettes = 0
  for (const [n, delayCs] of delaysCs.entries()) {
    for (let ahead = n; ahead <= Math.min(n + AHEAD, delaysCs.length - 1); ahead++) void map(ahead)
    const picture = await pictures.take(n)
    const mapped = await map(n)
    mapping.delete(n)
    if (mapped.own) ownPalettes++
    await codeNext(frames.take(picture, delayCs, mapped))
    await progress(n + 1)
  }
  await codeNext(frames.last())
  return { bytes: joined([...(await Promise.all(parts)), GIF_TRAILER]), kept: pictures.kept, ownPalettes }
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
