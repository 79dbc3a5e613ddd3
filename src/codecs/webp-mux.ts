import { ClipError } from './claims'

/** A frame of an animated WebP: the WebP file of its part of the picture, where that lies, in even px, and how long it is shown. */
export interface WebpFrame {
  readonly still: Uint8Array
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  /** ms */
  readonly delayMs: number
  /** Whether what was there before is seen through its clear pixels; else it takes the place of that. */
  readonly over: boolean
}

/** Chunks of a still that belong to its picture; what else it says, such as profiles, is left out. */
const PICTURE = new Set(['ALPH', 'VP8 ', 'VP8L'])
/** Flags of RFC 9649, § 2.7.1: the file moves; something of it is clear; a frame replaces what was there. */
const MOVES = 0x02
const CLEAR = 0x10
const REPLACES = 0x02

const textOf = (bytes: Uint8Array, at: number) => String.fromCharCode(...bytes.subarray(at, at + 4))

/** The chunks of a still WebP that make up its picture. @throws ClipError where it is none */
function pictureChunks(still: Uint8Array): Uint8Array[] {
  const view = new DataView(still.buffer, still.byteOffset, still.length)
  if (still.length < 20 || textOf(still, 0) !== 'RIFF' || textOf(still, 8) !== 'WEBP')
    throw new ClipError('A picture that was to become part of a WebP is no WebP.')
  const chunks: Uint8Array[] = []
  for (let at = 12; at + 8 <= still.length; ) {
    const size = view.getUint32(at + 4, true)
    const end = at + 8 + size + (size % 2)
    if (at + 8 + size > still.length) throw new ClipError('A picture that was to become part of a WebP breaks off.')
    if (PICTURE.has(textOf(still, at))) chunks.push(still.subarray(at, Math.min(end, still.length)))
    at = end
  }
  return chunks
}

function chunk(type: string, parts: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
  const size = parts.reduce((sum, { length }) => sum + length, 0)
  const bytes = new Uint8Array(8 + size + (size % 2))
  bytes.set(new TextEncoder().encode(type))
  new DataView(bytes.buffer).setUint32(4, size, true)
  let at = 8
  for (const part of parts) {
    bytes.set(part, at)
    at += part.length
  }
  return bytes
}

/** Little-endian integers, each with its size in bytes. */
function fields(...values: readonly (readonly [value: number, bytes: number])[]): Uint8Array {
  const all = values.flatMap(([value, bytes]) => Array.from({ length: bytes }, (_, i) => (value >>> (8 * i)) & 255))
  return Uint8Array.from(all)
}

/**
 * Puts stills together to an animated WebP that plays for ever (RFC 9649, § 2.7). Each frame replaces what its part showed, or lies over it.
 * @throws ClipError where a still is none, or lies outside the picture or at an odd place
 */
export function muxWebp(
  width: number,
  height: number,
  transparent: boolean,
  frames: readonly WebpFrame[],
): Uint8Array<ArrayBuffer> {
  const parts = frames.map(({ still, x, y, width: w, height: h, delayMs, over }) => {
    if (x % 2 > 0 || y % 2 > 0 || x + w > width || y + h > height)
      throw new ClipError('A part of a WebP lies at an odd place, or outside its picture.')
    const head = fields([x / 2, 3], [y / 2, 3], [w - 1, 3], [h - 1, 3], [delayMs, 3], [over ? 0 : REPLACES, 1])
    return chunk('ANMF', [head, ...pictureChunks(still)])
  })
  const canvas = fields(
    [MOVES | (transparent || frames.some(({ over }) => over) ? CLEAR : 0), 4],
    [width - 1, 3],
    [height - 1, 3],
  )
  // The ground is clear; no number of plays is for ever.
  return chunk('RIFF', [
    new TextEncoder().encode('WEBP'),
    chunk('VP8X', [canvas]),
    chunk('ANIM', [fields([0, 4], [0, 2])]),
    ...parts,
  ])
}
