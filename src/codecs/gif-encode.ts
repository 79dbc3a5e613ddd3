import { type ColourCount, type Palette, type Picture, paletteMapper, wordsOf } from '@/core/image'
import type { FileSettings } from '@/core/output'
import { GIFEncoder } from './gifenc'

/** How a loop's colours are reduced: 2 … 256 of them, of which one stands for what is not drawn. */
export interface GifColours extends Pick<FileSettings, 'colours' | 'palettes' | 'dithering' | 'loss'> {
  /** Keeps pixels under half opacity transparent; otherwise frames are taken as opaque. */
  readonly transparent: boolean
}
export const PLAIN_COLOURS: GifColours = {
  ...{ colours: 256, palettes: 'measured', dithering: 'none', transparent: false, loss: 0 },
}

/** A palette for counted colours: those themselves where they are few enough. Entry 0 stands for what is not drawn. */
export function paletteOf(counted: ColourCount, colours: number): Palette {
  const most = Math.max(1, colours - 1)
  const found = counted.few(most) ?? counted.palette(most)
  // Where nothing was drawn in the frames that were counted, something may be in others.
  return [[0, 0, 0], ...(found.length > 0 ? found : [[0, 0, 0]])]
}

/** A frame that is not written yet: how it is to be cleared is known from the next one. */
interface Pending {
  /** Palette indices of the whole frame. */
  readonly indices: Uint8Array
  /** What is shown with it, RGBA in words; 0 where it is clear. */
  readonly shown: Int32Array
  /** What was there before it was drawn. */
  readonly before: Int32Array
  readonly colours: Int32Array
  readonly own: Palette | null
  readonly delayCs: number
}

interface Edges {
  left: number
  top: number
  right: number
  bottom: number
}
/** Where the place of a frame stands in its image descriptor, which follows its control extension of 8 bytes. */
const PLACE_AT = 8 + 1

/**
 * Writes the frames of a loop, one after the other, into a GIF that repeats for ever. Of each frame only the box of what
 * changes is stored, and in it only pixels that are not shown already: palette entry 0 stands for the others. A pixel whose
 * source has not changed is never written anew, so that what stands still stays still whatever the dithering.
 */
export class GifWriter {
  private readonly stream = GIFEncoder()
  private readonly common: Mapped
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
    this.common = mapped(palette, colours)
  }

  /**
   * Adds a frame that is shown for so many hundredths of a second, with a palette of its own or the loop's. The picture stays as
   * it is until the next one is added.
   * @throws RangeError for another size than the file's, or a delay that viewers would replace.
   */
  add(picture: Picture, delayCs: number, own: Palette | null = null): void {
    if (picture.width !== this.width || picture.height !== this.height)
      throw new RangeError(`a frame of ${picture.width}×${picture.height} px does not fit in the file`)
    if (!Number.isInteger(delayCs) || delayCs < 2 || delayCs > 65_535)
      throw new RangeError(`${delayCs} hundredths is no delay that viewers honour`)
    const { indices: indicesOf, words } = own ? mapped(own, this.colours) : this.common
    const source = wordsOf(picture)
    const indices = indicesOf(picture)
    const shown = new Int32Array(indices.length)
    for (let i = 0; i < shown.length; i++) shown[i] = words[indices[i] as number] as number
    const last = this.pending?.shown
    if (last) this.keepStill(shown, last, source)
    this.source = source
    const before = this.flush(shown) ?? new Int32Array(shown.length)
    // What was kept, but has been cleared since, is drawn in this frame's own colours.
    if (this.colours.transparent)
      for (let i = 0; i < shown.length; i++)
        if (shown[i] !== before[i]) shown[i] = words[indices[i] as number] as number
    const pending: Pending = { indices, shown, before, colours: words, own, delayCs }
    if (this.colours.loss > 0) this.lengthenRuns(pending, source)
    this.firstShown ??= shown
    this.pending = pending
  }

  /** The bytes of the whole file. */
  finish(): Uint8Array<ArrayBuffer> {
    if (this.firstShown) this.flush(this.firstShown)
    this.stream.finish()
    return this.stream.bytes()
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
   * Writes the frame that waits, to be cleared where the next one shows nothing.
   * @returns what is there when the next one is drawn
   */
  private flush(next: Int32Array): Int32Array | null {
    const { pending, width, stream } = this
    if (!pending) return null
    const { shown, before, colours, delayCs, indices } = pending
    const first = pending.shown === this.firstShown
    const drawn = edges(width, (i) => shown[i] !== before[i], shown.length)
    const cleared = this.colours.transparent ? edges(width, (i) => next[i] === 0 && shown[i] !== 0, shown.length) : null
    const whole = { left: 0, top: 0, right: width - 1, bottom: this.height - 1 }
    const box = first ? whole : (union(drawn, cleared) ?? { left: 0, top: 0, right: 0, bottom: 0 })
    const [w, h] = [box.right - box.left + 1, box.bottom - box.top + 1]
    const part = new Uint8Array(w * h)
    let clear = false
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        const i = (box.top + y) * width + box.left + x
        if (shown[i] === before[i]) clear = true
        else part[y * w + x] = indices[i] as number
      }
    const palette = first ? this.palette : pending.own
    const at = stream.bytesView().length
    stream.writeFrame(part, w, h, {
      ...{ delay: delayCs * 10, dispose: cleared ? 2 : 1, colorDepth: depthOf(colours.length) },
      ...(palette ? { palette } : {}),
      ...(first ? { repeat: 0 } : {}),
      ...(clear ? { transparent: true, transparentIndex: 0 } : {}),
    })
    // gifenc puts every frame at the top left: its place is set afterwards.
    if (!first) {
      const view = new DataView(stream.bytesView().buffer, at + PLACE_AT)
      view.setUint16(0, box.left, true)
      view.setUint16(2, box.top, true)
    }
    if (!cleared) return shown
    const after = shown.slice()
    for (let y = box.top; y <= box.bottom; y++) after.fill(0, y * width + box.left, y * width + box.right + 1)
    return after
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
  /** The colours of the palette as words; 0, which is not drawn, for the first. */
  readonly words: Int32Array
}

function mapped(palette: Palette, { dithering, transparent }: GifColours): Mapped {
  const words = Int32Array.from(palette, ([r = 0, g = 0, b = 0]) => 0xff000000 | (b << 16) | (g << 8) | r)
  words[0] = 0
  return { indices: paletteMapper(palette, dithering, transparent), words }
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

/** The least box around the pixels for which something holds; null where it holds for none. */
function edges(width: number, holds: (i: number) => boolean, count: number): Edges | null {
  let [left, right, top, bottom] = [width, -1, -1, -1]
  for (let i = 0, y = 0; i < count; y++)
    for (let x = 0; x < width; x++, i++) {
      if (!holds(i)) continue
      if (x < left) left = x
      if (x > right) right = x
      if (top < 0) top = y
      bottom = y
    }
  return right < 0 ? null : { left, top, right, bottom }
}

const union = (a: Edges | null, b: Edges | null): Edges | null =>
  a && b
    ? {
        left: Math.min(a.left, b.left),
        top: Math.min(a.top, b.top),
        right: Math.max(a.right, b.right),
        bottom: Math.max(a.bottom, b.bottom),
      }
    : (a ?? b)
