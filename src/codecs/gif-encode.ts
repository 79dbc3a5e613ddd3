import { type Dithering, type Palette, type Picture, paletteMapper } from '@/core/image'
import { GIFEncoder, quantize } from './gifenc'

/** How a loop's colours are reduced. */
export interface GifColours {
  /** 2 … 256; one of them stands for what is not drawn. */
  readonly colours: number
  readonly dithering: Dithering
  /** Keeps pixels under half opacity transparent; otherwise frames are taken as opaque. */
  readonly transparent: boolean
}

/** Pixels that are looked at for the palette, over all frames. */
const PALETTE_PIXELS = 400_000

/**
 * One palette for a whole loop, from frames spread over it: pairwise nearest neighbour clustering (Equitz 1989), as
 * gifenc does it. Entry 0 stands for what is not drawn.
 */
export function loopPalette(frames: readonly Picture[], { colours, transparent }: GifColours): Palette {
  const total = frames.reduce((sum, { data }) => sum + data.length / 4, 0)
  const every = Math.max(1, Math.floor(total / PALETTE_PIXELS))
  const sample = new Uint8Array(Math.ceil(total / every) * 4 + 4)
  let written = 0
  let next = 0
  for (const { data } of frames) {
    const pixels = data.length / 4
    for (; next < pixels; next += every) {
      if (transparent && (data[4 * next + 3] as number) < 128) continue
      for (let c = 0; c < 3; c++) sample[written + c] = data[4 * next + c] as number
      sample[written + 3] = 255
      written += 4
    }
    next -= pixels
  }
  const notDrawn = [0, 0, 0]
  return written === 0 ? [notDrawn] : [notDrawn, ...quantize(sample.subarray(0, written), Math.max(1, colours - 1))]
}

/**
 * Writes the frames of a loop, one after the other, into a GIF that repeats for ever. Palette entry 0 is kept free for
 * what is not drawn: the transparent pixels of a transparent loop, or, in an opaque one, those that stay as in the
 * frame before.
 */
export class GifWriter {
  private readonly stream = GIFEncoder()
  private readonly indices: (picture: Picture) => Uint8Array
  private previous: Uint8Array | null = null

  /** @param palette from loopPalette for the same colours */
  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly palette: Palette,
    private readonly colours: GifColours,
  ) {
    this.indices = paletteMapper(palette, colours.dithering, colours.transparent)
  }

  /**
   * Adds a frame that is shown for so many hundredths of a second.
   * @throws RangeError for another size than the file's, or a delay that viewers would replace.
   */
  add(picture: Picture, delayCs: number): void {
    if (picture.width !== this.width || picture.height !== this.height)
      throw new RangeError(`a frame of ${picture.width}×${picture.height} px does not fit in the file`)
    if (!Number.isInteger(delayCs) || delayCs < 2 || delayCs > 65_535)
      throw new RangeError(`${delayCs} hundredths is no delay that viewers honour`)
    const indices = this.indices(picture)
    const first = this.previous === null
    const drawn = this.colours.transparent ? indices : changedOnly(indices, this.previous)
    this.stream.writeFrame(drawn, this.width, this.height, {
      delay: delayCs * 10,
      ...(first ? { palette: this.palette, repeat: 0 } : {}),
      ...(this.colours.transparent || !first ? { transparent: true, transparentIndex: 0 } : {}),
      dispose: this.colours.transparent ? 2 : 1,
    })
    this.previous = indices
  }

  /** The bytes of the whole file. */
  finish(): Uint8Array<ArrayBuffer> {
    this.stream.finish()
    return this.stream.bytes()
  }
}

/** The indices with 0 where they are the same as in the frame before. */
const changedOnly = (indices: Uint8Array, previous: Uint8Array | null): Uint8Array =>
  previous ? indices.map((index, i) => (index === previous[i] ? 0 : index)) : indices
