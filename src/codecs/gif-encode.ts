import {
  ColourCount,
  changedWords,
  deservesOwn,
  type Palette,
  type Picture,
  paletteMapper,
  UNSEEN_ERROR,
  wordsOf,
} from '@/core/image'
import type { FileSettings } from '@/core/output'
import { type Box, boxAround, boxCorners } from '@/core/path'
import { GIFEncoder } from './gifenc'

/** How a loop's colours are reduced: 2 … 256 of them, of which one stands for what is not drawn. */
export interface GifColours extends Pick<FileSettings, 'colours' | 'palettes' | 'dithering' | 'loss'> {
  /** Keeps pixels under half opacity transparent; otherwise frames are taken as opaque. */
  readonly transparent: boolean
}
export const PLAIN_COLOURS: GifColours = {
  colours: 256,
  palettes: 'measured',
  dithering: 'none',
  transparent: false,
  loss: 0,
}

/** A palette for counted colours: those themselves where they are few enough. Entry 0 stands for what is not drawn. */
export function paletteOf(counted: ColourCount, colours: number): Palette {
  const most = Math.max(1, colours - 1)
  const found = counted.few(most) ?? counted.palette(most)
  // Where nothing was drawn in the frames that were counted, something may be in others.
  return [[0, 0, 0], ...(found.length > 0 ? found : [[0, 0, 0]])]
}

/** A picture in the colours of a palette. */
export interface MappedPicture {
  readonly indices: Uint8Array
  /** Its own palette, where that is asked for or measured to be worth it; null for that of the file. */
  readonly own: Palette | null
}

let lastMapper: { readonly key: string; readonly mapped: Mapped } | null = null
/** The mapper of a palette; the same one for as long as pictures of one file are mapped. */
function mapperOf(palette: Palette, colours: GifColours): Mapped {
  const key = `${colours.dithering} ${colours.transparent} ${palette.join(' ')}`
  if (lastMapper?.key !== key) lastMapper = { key, mapped: mapped(palette, colours) }
  return lastMapper.mapped
}

/** A picture in the colours of the file's palette, or of its own: apart from all others. */
export function mapPicture(picture: Picture, palette: Palette, colours: GifColours, first: boolean): MappedPicture {
  const own = first ? null : ownPalette(picture, palette, colours)
  const { indices } = own ? mapped(own, colours) : mapperOf(palette, colours)
  return { indices: indices(picture), own }
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

/** A frame that is not written yet: how it is to be cleared is known from the next one. */
interface Pending {
  /** Palette indices of the whole frame. */
  readonly indices: Uint8Array
  /** Picture shown with this frame, RGBA as 32-bit words; 0 where it is clear. */
  readonly shown: Int32Array
  /** Picture before this frame was drawn. */
  readonly before: Int32Array
  readonly colours: Int32Array
  readonly own: Palette | null
  readonly delayCs: number
}

/** A frame that is ready to be coded: what it draws, where, and how it is shown. Frames are coded apart from each other. */
export interface GifFrame {
  /** Palette indices of its box. */
  readonly part: Uint8Array
  readonly box: Box
  /** Its own palette, or, of the first frame, the one of the file; null for that of the file. */
  readonly palette: Palette | null
  /** Whether the head of the file stands before it. */
  readonly first: boolean
  readonly delayCs: number
  /** Whether entry 0 stands for what is not drawn. */
  readonly clear: boolean
  /** Disposal method: 1 it stays, 2 its box is cleared (GIF89a). */
  readonly dispose: 1 | 2
  /** Bits that its indices take. */
  readonly depth: number
}

/** The bytes of a frame in the file; of the first, with the head of the file. */
export function codeGifFrame({
  part,
  box,
  palette,
  first,
  delayCs,
  clear,
  dispose,
  depth,
}: GifFrame): Uint8Array<ArrayBuffer> {
  const stream = GIFEncoder({ auto: first })
  stream.writeFrame(part, box.width, box.height, {
    delay: delayCs * 10,
    dispose,
    colorDepth: depth,
    ...(palette ? { palette } : {}),
    ...(first ? { repeat: 0 } : {}),
    ...(clear ? { transparent: true, transparentIndex: 0 } : {}),
  })
  const bytes = stream.bytes()
  // gifenc puts every frame at the top left: its place is set afterwards.
  if (!first) {
    const view = new DataView(bytes.buffer, bytes.byteOffset + PLACE_AT)
    view.setUint16(0, box.x, true)
    view.setUint16(2, box.y, true)
  }
  return bytes
}

/** Trailer of the file, after the last frame. */
export const GIF_TRAILER = Uint8Array.of(0x3b)

/** Where the place of a frame stands in its image descriptor, which follows its control extension of 8 bytes. */
const PLACE_AT = 8 + 1

/**
 * Makes the frames of a loop, one after the other, into those of a GIF that repeats for ever. Of each frame only the box of what
 * changes is stored, and in it only pixels that are not shown already: palette entry 0 stands for the others. A pixel whose
 * source has not changed is never written anew, so that what stands still stays still whatever the dithering.
 */
export class GifFrames {
  /** The colours of the palette as words; 0, which is not drawn, for the first. */
  private readonly words: Int32Array
  private source: Int32Array | null = null
  private pending: Pending | null = null
  private firstShown: Int32Array | null = null

  /** @param palette from paletteOf, for the same colours */
  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly palette: Palette,
    private readonly colours: GifColours,
  ) {
    this.words = wordsOfPalette(palette)
  }

  /**
   * Takes a frame with its delay in hundredths of a second, mapped by mapPicture. The picture must stay unchanged until
   * the next one is taken; the indices may be changed.
   * @returns the frame before it, ready to be coded; null for the first
   * @throws RangeError for another size than the file's, or a delay that viewers would replace
   */
  take(picture: Picture, delayCs: number, { indices, own }: MappedPicture): GifFrame | null {
    if (picture.width !== this.width || picture.height !== this.height)
      throw new RangeError(`a frame of ${picture.width}×${picture.height} px does not fit in the file`)
    if (!Number.isInteger(delayCs) || delayCs < 2 || delayCs > 65_535)
      throw new RangeError(`${delayCs} hundredths is no delay that viewers honour`)
    const words = own ? wordsOfPalette(own) : this.words
    const source = wordsOf(picture)
    const shown = lookedUp(indices, words)
    const last = this.pending?.shown
    if (last) this.keepStill(shown, last, source)
    this.source = source
    const { frame = null, after: before = new Int32Array(shown.length) } = this.flush(shown) ?? {}
    // Pixels that were left unchanged, but have been cleared since, are drawn in this frame's own colours.
    if (this.colours.transparent)
      for (let i = 0; i < shown.length; i++)
        if (shown[i] !== before[i]) shown[i] = words[indices[i] as number] as number
    const pending: Pending = { indices, shown, before, colours: words, own, delayCs }
    if (this.colours.loss > 0) this.lengthenRuns(pending, source)
    this.firstShown ??= shown
    this.pending = pending
    return frame
  }

  /** The last frame, ready to be coded; null where none was taken. */
  last(): GifFrame | null {
    return (this.firstShown && this.flush(this.firstShown)?.frame) ?? null
  }

  /** Has pixels show what they do already, where their source is the same or near enough. */
  private keepStill(shown: Int32Array, last: Int32Array, source: Int32Array): void {
    const { loss } = this.colours
    const before = this.source as Int32Array
    for (let i = 0; i < shown.length; i++) {
      if (shown[i] === last[i] || shown[i] === 0 || last[i] === 0) continue
      if (source[i] === before[i] || (loss > 0 && apart(source[i] as number, last[i] as number) <= loss))
        shown[i] = last[i] as number
    }
  }

  /**
   * The frame that waits, to be cleared where the next one shows nothing, and what is there when that one is drawn.
   */
  private flush(next: Int32Array): { readonly frame: GifFrame; readonly after: Int32Array } | null {
    const { pending, width } = this
    if (!pending) return null
    const { shown, before, colours, delayCs, indices } = pending
    const first = pending.shown === this.firstShown
    const drawn = changedWords(width, before, shown)
    const cleared = this.colours.transparent ? changedWords(width, shown, staying(shown, next)) : null
    const whole = { x: 0, y: 0, width, height: this.height }
    const changed = boxAround([drawn, cleared].flatMap((box) => (box ? boxCorners(box) : [])))
    const box = first ? whole : (changed ?? { x: 0, y: 0, width: 1, height: 1 })
    const part = new Uint8Array(box.width * box.height)
    let clear = false
    for (let y = 0, to = 0; y < box.height; y++)
      for (let x = 0, i = (box.y + y) * width + box.x; x < box.width; x++, i++, to++) {
        if (shown[i] === before[i]) clear = true
        else part[to] = indices[i] as number
      }
    const frame: GifFrame = {
      part,
      box,
      first,
      delayCs,
      clear,
      dispose: cleared ? 2 : 1,
      palette: first ? this.palette : pending.own,
      depth: depthOf(colours.length),
    }
    if (!cleared) return { frame, after: shown }
    const after = shown.slice()
    for (let y = box.y; y < box.y + box.height; y++) after.fill(0, y * width + box.x, y * width + box.x + box.width)
    return { frame, after }
  }

  /** Has a pixel take the colour of the one to its left where that is near enough: longer runs take fewer bytes. */
  private lengthenRuns({ indices, shown, before, colours }: Pending, source: Int32Array): void {
    const { loss } = this.colours
    for (let i = 1; i < shown.length; i++) {
      if (i % this.width === 0 || shown[i] === before[i] || shown[i - 1] === before[i - 1]) continue
      const left = indices[i - 1] as number
      if (left === 0 || indices[i] === 0 || apart(source[i] as number, colours[left] as number) > loss) continue
      indices[i] = left
      shown[i] = colours[left] as number
    }
  }
}

interface Mapped {
  readonly indices: (picture: Picture) => Uint8Array
}
const mapped = (palette: Palette, { dithering, transparent }: GifColours): Mapped => ({
  indices: paletteMapper(palette, dithering, transparent),
})

function wordsOfPalette(palette: Palette): Int32Array {
  const words = Int32Array.from(palette, ([r = 0, g = 0, b = 0]) => 0xff000000 | (b << 16) | (g << 8) | r)
  words[0] = 0
  return words
}

/** The greatest difference of a channel between two colours in words, 0 … 255. */
const apart = (a: number, b: number): number =>
  Math.max(
    Math.abs((a & 255) - (b & 255)),
    Math.abs(((a >> 8) & 255) - ((b >> 8) & 255)),
    Math.abs(((a >> 16) & 255) - ((b >> 16) & 255)),
  )

/** Bits that the indices of a palette take, at least the two that LZW in GIF begins with. */
const depthOf = (colours: number) => Math.max(2, Math.ceil(Math.log2(colours)))

function lookedUp(indices: Uint8Array, words: Int32Array): Int32Array {
  const shown = new Int32Array(indices.length)
  for (let i = 0; i < indices.length; i++) shown[i] = words[indices[i] as number] as number
  return shown
}

/** The shown picture, without the pixels that the next frame leaves clear. */
function staying(shown: Int32Array, next: Int32Array): Int32Array {
  const words = shown.slice()
  for (let i = 0; i < words.length; i++) if (next[i] === 0) words[i] = 0
  return words
}
