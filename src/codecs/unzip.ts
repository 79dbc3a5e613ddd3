import { unzipSync } from 'fflate'

/** An archive that is not unpacked: it is damaged, or exceeds the bounds in bytes or files. */
export class UnzipError extends Error {
  override readonly name = 'UnzipError'
  constructor(readonly why: 'damaged' | 'too large' | 'too many') {
    super(`The archive is ${why}.`)
  }
}

/** Limits for unpacking an archive. */
export interface UnzipBounds {
  /** Most unpacked bytes of all wanted files together, and of a single one. */
  readonly mostBytes: number
  readonly mostBytesOf?: (name: string) => number
  /** Most files that are wanted. */
  readonly mostFiles?: number
}

/** Most unpacked bytes of an archive that this program has written, such as a piece. */
export const MAX_OWN_BYTES = 4 * 1024 ** 3

/** Most entries of a directory, wanted or not: all of them are read before the first file is unpacked. */
const MAX_ENTRIES = 100_000
/** Highest ratio of Deflate (RFC 1951): one bit for a length and one for a distance stand for 258 bytes. */
export const MAX_DEFLATE_RATIO = 1032
/** Allowance for very small files, bytes. */
const DEFLATE_MARGIN_BYTES = 64

/**
 * Unpacks a ZIP archive (APPNOTE 6.3.10). Its directory is checked before memory is allocated: the number of files and their unpacked bytes against the
 * bounds, the sum of their packed bytes against the archive (no two files may share bytes), and each unpacked size against the ratio of Deflate.
 * @param wanted which files are unpacked, by name
 * @returns the files by name
 * @throws UnzipError
 */
export function unzipped(
  bytes: Uint8Array,
  { mostBytes, mostBytesOf, mostFiles = MAX_ENTRIES }: UnzipBounds,
  wanted: (name: string) => boolean = () => true,
): Record<string, Uint8Array<ArrayBuffer>> {
  let entries = 0
  let files = 0
  let packed = 0
  let unpacked = 0
  try {
    const found = unzipSync(bytes, {
      filter: ({ name, size, originalSize }) => {
        if (++entries > MAX_ENTRIES) throw new UnzipError('too many')
        if (!wanted(name)) return false
        packed += size
        unpacked += originalSize
        if (++files > mostFiles) throw new UnzipError('too many')
        if (unpacked > mostBytes || originalSize > (mostBytesOf?.(name) ?? mostBytes)) throw new UnzipError('too large')
        if (packed > bytes.length || originalSize > MAX_DEFLATE_RATIO * size + DEFLATE_MARGIN_BYTES)
          throw new UnzipError('damaged')
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
