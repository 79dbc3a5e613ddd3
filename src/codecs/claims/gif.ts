import { Bytes, ClipError, checkFrames, checkSize, type FileClaims, unbacked } from './claims'

/** Claims of a GIF (GIF89a §15–27). Extensions that the standard does not have are passed over, as viewers do. */
export function gifClaims(file: Uint8Array): FileClaims {
  const bytes = new Bytes(file, 'GIF')
  const width = bytes.u16le(6)
  const height = bytes.u16le(8)
  checkSize(width, height, 'GIF')
  const table = (packed: number) => (packed & 0x80 ? 3 << ((packed & 7) + 1) : 0)
  const delaysMs: number[] = []
  const notes: string[] = []
  let plays = 1
  let delay = 0
  let at = 13 + table(bytes.u8(10))
  /** Passes over sub-blocks; returns where the next block begins. */
  const skip = (from: number) => {
    let next = from
    for (let size = bytes.u8(next); size > 0; size = bytes.u8(next)) next += size + 1
    return next + 1
  }
  for (;;) {
    // Viewers do without the mark of the end.
    if (at === bytes.length && delaysMs.length > 0) {
      notes.push('the mark of its end is missing')
      break
    }
    const block = bytes.u8(at++)
    if (block === 0x3b) break
    if (block === 0x2c) {
      if (bytes.u16le(at + 4) * bytes.u16le(at + 6) === 0)
        throw new ClipError(
          `Frame ${delaysMs.length} of the GIF file has no size: the file is damaged. Fetch or export it again.`,
        )
      const pixels = bytes.u16le(at + 4) * bytes.u16le(at + 6)
      const data = at + 9 + table(bytes.u8(at + 8))
      const next = skip(data + 1)
      if (pixels > maxPixels(next - data - 1, bytes.u8(data))) throw unbacked(delaysMs.length, pixels, 'GIF')
      delaysMs.push(delay)
      delay = 0
      at = next
    } else if (block === 0x21) {
      const label = bytes.u8(at++)
      if (label === 0xf9 && bytes.u8(at) >= 4) delay = 10 * bytes.u16le(at + 2)
      if (label === 0xff && bytes.u8(at) === 11) {
        const name = bytes.text(at + 1, 11)
        if ((name === 'NETSCAPE2.0' || name === 'ANIMEXTS1.0') && bytes.u8(at + 12) >= 3 && bytes.u8(at + 13) === 1)
          plays = repeats(bytes.u16le(at + 14))
      }
      at = skip(at)
    } else if (block !== 0)
      throw new ClipError(`The GIF file is damaged: no block begins at byte ${at - 1}. Fetch or export it again.`)
  }
  checkFrames(delaysMs.length, 'GIF')
  if (at < bytes.length) notes.push(`${bytes.length - at} bytes follow the end of the GIF`)
  return { format: 'gif', width, height, delaysMs, plays, notes }
}

/** Longest string that one LZW code stands for, pixels: a table has 4096 entries (GIF89a, appendix F). */
const MAX_STRING_PIXELS = 4096
/**
 * Upper bound of the pixels in LZW data. A code has at least `codeSize` + 1 bits, and each string is at most one pixel longer than the longest before it.
 * @param length of the data, bytes
 */
function maxPixels(length: number, codeSize: number): number {
  const codes = Math.ceil((8 * length) / (codeSize + 1))
  return codes * Math.min(codes, MAX_STRING_PIXELS)
}

/** The extension counts repeats after the first play; 0 is for ever. */
const repeats = (count: number) => (count === 0 ? 0 : count + 1)
