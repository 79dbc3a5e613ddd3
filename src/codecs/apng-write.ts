import type { Fraction } from '@/core/clock'
import { ClipError, readPng } from './claims'
import { pngChunk, pngFile } from './png-chunk'

/** A frame as it is added: the PNG file of its part of the picture, and where that lies. */
export interface ApngPart {
  readonly png: Uint8Array
  /** px; a frame shows what was there before, but for this part. */
  readonly x: number
  readonly y: number
  /**
   * True if the part is blended over the picture before it, which shows through its clear pixels; false if it replaces
   * it.
   */
  readonly over: boolean
}

/** A colour as 16-bit samples of red, green and blue (PNG 3rd edition, § 11.3.2.1). */
const clearSample = (colour: number) => Uint8Array.from([0, colour >> 16, 0, (colour >> 8) & 255, 0, colour & 255])

/**
 * Puts an APNG together from PNG files (PNG 3rd edition, § 11.3.6): their compressed picture data go in as they are. The
 * first frame is the default picture.
 */
export class ApngWriter {
  private readonly chunks: Uint8Array[] = []
  private header: Uint8Array | null = null
  private sequence = 0
  private added = 0

  /**
   * @param delays of all frames, s; parts of at most 16 bits
   * @param clear the colour, 0xRRGGBB, that is clear in all pictures, which have no alpha then
   */
  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly delays: readonly Fraction[],
    private readonly clear: number | null = null,
  ) {}

  /** @throws ClipError where the pictures are not of one kind, or the first is not the whole picture. */
  add({ png, x, y, over }: ApngPart): void {
    const file = readPng(png)
    const [frame] = file.frames
    const kind = file.header.slice(8)
    if (!frame || (this.header && kind.some((byte, i) => byte !== this.header?.[i])))
      throw new ClipError('The pictures of an APNG must be of one kind.')
    if (!this.header && (file.width !== this.width || file.height !== this.height || x !== 0 || y !== 0))
      throw new ClipError('The first picture of an APNG is the whole one.')
    const delay = this.delays[this.added] as Fraction
    const control = new Uint8Array(26)
    const view = new DataView(control.buffer)
    for (const [i, value] of [this.sequence++, file.width, file.height, x, y].entries()) view.setUint32(4 * i, value)
    view.setUint16(20, delay.num)
    view.setUint16(22, delay.den)
    // blend_op: over, or source.
    control[25] = over ? 1 : 0
    this.chunks.push(pngChunk('fcTL', control))
    for (const part of frame.data) {
      if (!this.header) {
        this.chunks.push(pngChunk('IDAT', part))
        continue
      }
      const numbered = new Uint8Array(4 + part.length)
      new DataView(numbered.buffer).setUint32(0, this.sequence++)
      numbered.set(part, 4)
      this.chunks.push(pngChunk('fdAT', numbered))
    }
    this.header ??= kind
    this.added++
  }

  /** The file, which plays for ever. @throws ClipError where frames are missing. */
  finish(): Uint8Array<ArrayBuffer> {
    if (!this.header || this.added !== this.delays.length)
      throw new ClipError(`${this.added} of ${this.delays.length} frames of the APNG were written.`)
    const ihdr = new Uint8Array(13)
    const view = new DataView(ihdr.buffer)
    view.setUint32(0, this.width)
    view.setUint32(4, this.height)
    ihdr.set(this.header, 8)
    const control = new Uint8Array(8)
    new DataView(control.buffer).setUint32(0, this.added)
    return pngFile([
      pngChunk('IHDR', ihdr),
      pngChunk('acTL', control),
      ...(this.clear === null ? [] : [pngChunk('tRNS', clearSample(this.clear))]),
      ...this.chunks,
      pngChunk('IEND', new Uint8Array(0)),
    ])
  }
}
