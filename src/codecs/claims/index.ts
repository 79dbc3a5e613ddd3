import { ClipError, type FileClaims } from './claims'
import { gifClaims } from './gif'
import { readPng } from './png'
import { webpClaims } from './webp'

export { ClipError, type ClipFormat, type FileClaims, MOST_FRAMES } from './claims'
export { composeApng, pngOfPart } from './compose'
export { type PngFile, type PngFrame, readPng } from './png'

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]

/**
 * What a GIF, APNG, PNG or WebP file says of itself, by its contents and not by its name.
 * @throws ClipError when it is none of these, breaks off, or claims what cannot be.
 */
export function readClaims(file: Uint8Array): FileClaims {
  const text = (from: number, length: number) => String.fromCharCode(...file.subarray(from, from + length))
  if (file.length === 0) throw new ClipError('The file is empty.')
  if (text(0, 6) === 'GIF89a' || text(0, 6) === 'GIF87a') return gifClaims(file)
  if (PNG.every((byte, i) => file[i] === byte)) return readPng(file)
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WEBP') return webpClaims(file)
  throw new ClipError(
    'The file is not a GIF, APNG or WebP: it does not begin as one does. It may be mislabelled or damaged.',
  )
}
