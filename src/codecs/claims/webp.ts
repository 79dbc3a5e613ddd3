import { Bytes, ClipError, checkFrames, checkSize, type FileClaims } from './claims'

/** A frame as it is stored in an animated WebP: its place, what is done with it, and the chunks of its picture. */
export interface StoredWebpFrame {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
  readonly flags: number
  readonly data: Uint8Array
}

/** The frames of an animated WebP (RFC 9649, § 2.7.1.2). */
export function webpFrames(file: Uint8Array): StoredWebpFrame[] {
  const bytes = new Bytes(file, 'WebP')
  const end = Math.min(bytes.length, 8 + bytes.u32le(4))
  const frames: StoredWebpFrame[] = []
  for (let at = 12; at + 8 <= end; ) {
    const size = bytes.u32le(at + 4)
    const data = at + 8
    if (data + size > bytes.length) throw bytes.brokenOff()
    if (bytes.text(at, 4) === 'ANMF' && size >= 16)
      frames.push({
        x: 2 * bytes.u24le(data),
        y: 2 * bytes.u24le(data + 3),
        width: bytes.u24le(data + 6) + 1,
        height: bytes.u24le(data + 9) + 1,
        flags: bytes.u8(data + 15),
        data: file.subarray(data + 16, data + size),
      })
    at = data + size + (size % 2)
  }
  return frames
}

/** Claims of a WebP file (RFC 9649, § 2). A still one is one frame. */
export function webpClaims(file: Uint8Array): FileClaims {
  const bytes = new Bytes(file, 'WebP')
  const end = 8 + bytes.u32le(4)
  if (end > bytes.length) throw bytes.brokenOff()
  const notes = end + 1 < bytes.length ? [`${bytes.length - end} bytes follow the end of the WebP`] : []
  const delaysMs: number[] = []
  let width = 0
  let height = 0
  let plays = 1
  let animated = false
  for (let at = 12; at + 8 <= end; ) {
    const type = bytes.text(at, 4)
    const size = bytes.u32le(at + 4)
    if (at + 8 + size > bytes.length) throw bytes.brokenOff()
    const data = at + 8
    if (type === 'VP8X') {
      animated = (bytes.u8(data) & 2) !== 0
      width = bytes.u24le(data + 4) + 1
      height = bytes.u24le(data + 7) + 1
    } else if (type === 'ANIM') plays = bytes.u16le(data + 4)
    else if (type === 'ANMF') {
      const x = 2 * bytes.u24le(data)
      const y = 2 * bytes.u24le(data + 3)
      const w = bytes.u24le(data + 6) + 1
      const h = bytes.u24le(data + 9) + 1
      if (x + w > width || y + h > height)
        throw new ClipError(
          `Frame ${delaysMs.length} of the WebP file lies outside its picture: the file is damaged. Fetch or export it again.`,
        )
      delaysMs.push(bytes.u24le(data + 12))
    } else if (type === 'VP8 ' && width === 0) {
      width = bytes.u16le(data + 6) & 0x3fff
      height = bytes.u16le(data + 8) & 0x3fff
    } else if (type === 'VP8L' && width === 0) {
      const packed = bytes.u32le(data + 1)
      width = (packed & 0x3fff) + 1
      height = ((packed >> 14) & 0x3fff) + 1
    }
    at = data + size + (size % 2)
  }
  checkSize(width, height, 'WebP')
  if (!animated) return { format: 'webp', width, height, delaysMs: [0], plays: 0, notes }
  checkFrames(delaysMs.length, 'WebP')
  return { format: 'webp', width, height, delaysMs, plays, notes }
}
