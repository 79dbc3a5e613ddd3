import { unzipSync } from 'fflate'

/** Why an archive is not unpacked: it is damaged, unpacks to too much, or holds too many files. */
export class UnzipError extends Error {
  override readonly name = 'UnzipError'
  constructor(readonly why: 'damaged' | 'too large' | 'too many') {
    super(`The archive is ${why}.`)
  }
}

/** What may come out of an archive. */
export interface UnzipBounds {
  /** Bytes of the files that are wanted, together; and of each of them, by its name. */
  readonly mostBytes: number
  readonly mostBytesOf?: (name: string) => number
  /** Files that are wanted. */
  readonly mostFiles?: number
}

/** So much may come out of an archive that this program wrote, bytes: more than any of them holds. */
export const LARGEST_OWN = 4 * 1024 ** 3

/** Files in an archive at the most, wanted or not: its directory is read to the end before anything is known of it. */
const MOST_ENTRIES = 100_000
/** Deflate makes of each byte at the most so many (RFC 1951: two bits, a length and a distance, stand for 258 bytes), and of the first few a little more. */
export const MOST_OF_A_BYTE = 1032
const SPARE = 64

/**
 * The files in a ZIP archive (APPNOTE 6.3.10) by their names. What its directory promises is held against the bytes that are there before room is made for it:
 * files to their number, their packed bytes to those of the archive, which no two of them share, and their unpacked ones to what the packed can become.
 * @param wanted whether a file is unpacked
 * @throws UnzipError
 */
export function unzipped(
  bytes: Uint8Array,
  { mostBytes, mostBytesOf, mostFiles = MOST_ENTRIES }: UnzipBounds,
  wanted: (name: string) => boolean = () => true,
): Record<string, Uint8Array<ArrayBuffer>> {
  let entries = 0
  let files = 0
  let packed = 0
  let unpacked = 0
  try {
    const found = unzipSync(bytes, {
      filter: ({ name, size, originalSize }) => {
        if (++entries > MOST_ENTRIES) throw new UnzipError('too many')
        if (!wanted(name)) return false
        packed += size
        unpacked += originalSize
        if (++files > mostFiles) throw new UnzipError('too many')
        if (unpacked > mostBytes || originalSize > (mostBytesOf?.(name) ?? mostBytes)) throw new UnzipError('too large')
        if (packed > bytes.length || originalSize > MOST_OF_A_BYTE * size + SPARE) throw new UnzipError('damaged')
        return true
      },
    })
    return found as Record<string, Uint8Array<ArrayBuffer>>
  } catch (error) {
    throw error instanceof UnzipError ? error : new UnzipError('damaged')
  }
}

/** The names of the files in an archive; nothing is unpacked. @throws UnzipError */
export function namesInZip(bytes: Uint8Array): string[] {
  const names: string[] = []
  unzipped(bytes, { mostBytes: 0 }, (name) => {
    names.push(name)
    return false
  })
  return names
}
