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

/** Some pixels of a picture, spread over it, RGBA; those under half opacity are left out where they stay transparent. */
export function palettePixels({ data }: Picture, most: number, transparent: boolean): Uint8Array {
  const pixels = data.length / 4
  const every = Math.max(1, Math.ceil(pixels / most))
  const sample = new Uint8Array(Math.ceil(pixels / every) * 4)
  let written = 0
  for (let p = 0; p < data.length; p += 4 * every) {
    if (transparent && (data[p + 3] as number) < 128) continue
    for (let c = 0; c < 3; c++) sample[written + c] = data[p + c] as number
    sample[written + 3] = 255
    written += 4
  }
  return sample.subarray(0, written)
}

/**
 * One palette for a whole loop, from pixels of frames spread over it: pairwise nearest neighbour clustering (Equitz
 * 1989), as gifenc does it. Entry 0 stands for what is not drawn.
 */
export function paletteOf(samples: readonly Uint8Array[], colours: number): Palette {
  const all = new Uint8Array(samples.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const sample of samples) {
    all.set(sample, at)
    at += sample.length
  }
  const notDrawn = [0, 0, 0]
  return all.length === 0 ? [notDrawn] : [notDrawn, ...quantize(all, Math.max(1, colours - 1))]
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

  /** @param palette from paletteOf, for the same colours */
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
