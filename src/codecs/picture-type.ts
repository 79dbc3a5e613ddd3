import type { PictureType } from '@/core/media'
import { ClipError, readPng } from './claims'

/** The kind of a picture by its first bytes, whatever it is called; null for none that a loop keeps. */
export function sniffedPictureType(bytes: Uint8Array): PictureType | null {
  const begins = (at: number, ...expected: readonly number[]) => expected.every((byte, i) => bytes[at + i] === byte)
  if (begins(0, 0x89, 0x50, 0x4e, 0x47)) return 'image/png'
  if (begins(0, 0xff, 0xd8, 0xff)) return 'image/jpeg'
  return begins(0, 0x52, 0x49, 0x46, 0x46) && begins(8, 0x57, 0x45, 0x42, 0x50) ? 'image/webp' : null
}

/** The fault in the chunks of a PNG file, which browsers draw as far as it goes; null if they are whole. */
export function brokenPng(bytes: Uint8Array): string | null {
  try {
    readPng(bytes)
    return null
  } catch (error) {
    if (error instanceof ClipError) return error.message
    throw error
  }
}
