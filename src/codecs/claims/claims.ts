import { MAX_PIXELS } from '@/core/image'

/** Formats of moving pictures whose claims are read here. */
type ClipFormat = 'gif' | 'apng' | 'png' | 'webp'

/** Header facts of a file, read before any picture is decoded. */
export interface FileClaims {
  readonly format: ClipFormat
  /** px */
  readonly width: number
  readonly height: number
  /** One for each frame, as the file states it; a fraction of an APNG is exact to a double. */
  readonly delaysMs: readonly number[]
  /** Times the file asks to be played; 0 is for ever. */
  readonly plays: number
  /** Sentences about oddities of the file that do no harm. */
  readonly notes: readonly string[]
}

/** A file that cannot be read: what is wrong, and what can be done. */
export class ClipError extends Error {
  override readonly name = 'ClipError'
}

/** Why a video of high dynamic range (Rec. ITU-R BT.2100) is not read. */
export const HIGH_RANGE =
  'It is an HDR video, whose light a loop cannot hold as it is. Convert it to SDR (Rec. 709) first.'

/** The most frames that are read of one file. */
export const MAX_CLAIMED_FRAMES = 20_000

/** @throws ClipError for a picture that no viewer shows, or that only claims to be so large. */
export function checkSize(width: number, height: number, format: string): void {
  if (width < 1 || height < 1)
    throw new ClipError(
      `The ${format} file claims a picture of ${width} × ${height} px, which nothing can show. Fetch or export it again.`,
    )
  if (width * height > MAX_PIXELS)
    throw new ClipError(
      `The ${format} file claims ${width} × ${height} px, more than the ${Math.floor(MAX_PIXELS / 1e6)} million pixels that can be worked with. It may be damaged; otherwise make it smaller first.`,
    )
}

export function checkFrames(count: number, format: string): void {
  if (count === 0) throw new ClipError(`The ${format} file holds no picture. Fetch or export it again.`)
  if (count > MAX_CLAIMED_FRAMES)
    throw new ClipError(
      `The ${format} file claims ${count} frames; up to ${MAX_CLAIMED_FRAMES} can be read. Cut it first.`,
    )
}

/** The error for a frame whose compressed data are too short for its size. */
export const unbacked = (frame: number, pixels: number, format: string): ClipError =>
  new ClipError(
    `Frame ${frame} of the ${format} file promises ${pixels} pixels, which its bytes cannot hold: the file is damaged or breaks off. Fetch or export it again.`,
  )

/** Bytes with the numbers in them; reading past the end says that the file breaks off. */
export class Bytes {
  private readonly view: DataView
  constructor(
    readonly bytes: Uint8Array,
    private readonly format: string,
  ) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  }
  get length(): number {
    return this.bytes.length
  }
  private at<T>(offset: number, size: number, read: () => T): T {
    if (offset + size > this.bytes.length) throw this.brokenOff()
    return read()
  }
  brokenOff(): ClipError {
    return new ClipError(
      `The ${this.format} file breaks off after ${this.bytes.length} bytes, before its end. Fetch or export it again.`,
    )
  }
  u8 = (offset: number): number => this.at(offset, 1, () => this.view.getUint8(offset))
  u16le = (offset: number): number => this.at(offset, 2, () => this.view.getUint16(offset, true))
  u16be = (offset: number): number => this.at(offset, 2, () => this.view.getUint16(offset))
  u24le = (offset: number): number => this.u16le(offset) | (this.u8(offset + 2) << 16)
  u32le = (offset: number): number => this.at(offset, 4, () => this.view.getUint32(offset, true))
  u32be = (offset: number): number => this.at(offset, 4, () => this.view.getUint32(offset))
  text = (offset: number, length: number): string =>
    this.at(offset, length, () => String.fromCharCode(...this.bytes.subarray(offset, offset + length)))
}
