import * as z from 'zod/mini'
import { list, text, whole } from '../schemas'

/**
 * A file that a document names and does not hold: bytes that never change under their id. It is kept once, however many loops,
 * variants and steps of undo name it.
 */
export interface Asset {
  /** SHA-256 (FIPS 180-4) of its bytes, in hexadecimal. */
  readonly id: string
  /** Media type; of its parts, where it has several. */
  readonly type: string
  readonly bytes: number
  /** Sizes of the files that lie one after the other in it, bytes; left out where it is one. */
  readonly parts?: readonly number[]
}

/** The largest single file of a document, bytes: a picture, or a frame of a clip. */
export const MAX_PICTURE_BYTES = 8 * 1024 * 1024
/** The most that a document keeps of one clip, frames and bytes of their files; and of the file that it was cut from. */
export const MAX_CLIP_FRAMES = 3000
export const MAX_CLIP_BYTES = 64 * 1024 * 1024
export const MAX_SOURCE_BYTES = 192 * 1024 * 1024
/** Largest total size of a document's files, bytes: the same as an archive of it may unpack to. */
export const MAX_MEDIA_BYTES = 448 * 1024 * 1024

const assetId = z.string().check(z.regex(/^[0-9a-f]{64}$/, 'is no SHA-256 in hexadecimal'))

/** Schema of a file of at most `largest` bytes. */
export const assetOf = (largest: number) =>
  z.strictObject({ id: assetId, type: text(100, 1), bytes: whole(0, largest) })

/** The schema of a file that holds several, one after the other. */
export const assetOfParts = (largest: number, largestPart: number, most: number) =>
  z
    .strictObject({
      id: assetId,
      type: text(100, 1),
      bytes: whole(0, largest),
      parts: list(whole(0, largestPart), most, 1),
    })
    .check(
      z.refine(({ bytes, parts }) => parts.reduce((sum, size) => sum + size, 0) === bytes, {
        message: 'has parts that do not make up its bytes',
        path: ['parts'],
      }),
    )

/** Where a part of an asset begins and ends, bytes; null where it has none of that number. */
export function partOf({ bytes, parts = [bytes] }: Asset, n: number): { from: number; to: number } | null {
  const size = parts[n]
  if (size === undefined) return null
  const from = parts.slice(0, n).reduce((sum, each) => sum + each, 0)
  return { from, to: from + size }
}

const digits = (bytes: Uint8Array) => [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join('')

/** The id of bytes. @throws Error in a page that has no cryptography, since it did not come over a safe connection */
export async function idOfBytes(bytes: Uint8Array<ArrayBuffer>): Promise<string> {
  const { subtle } = globalThis.crypto
  if (!subtle)
    throw new Error('Files can be brought in only where Cyclon is opened over https or from this very computer.')
  return digits(new Uint8Array(await subtle.digest('SHA-256', bytes)))
}

/** An id for a file whose bytes are lost: the one of no bytes at all, since nothing has to be found under it. */
export const LOST_ID = 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'
