import { ClipError, type FileClaims } from './claims'
import { gifClaims } from './gif'
import { readPng } from './png'
import { webpClaims } from './webp'

export {
  ClipError,
  checkFrames,
  checkSize,
  type FileClaims,
  HIGH_RANGE,
  MAX_CLAIMED_FRAMES,
} from './claims'
export { composeApng, pngOfPart } from './compose'
export { readPng } from './png'
export { refuseHuge } from './size'
export { webpFrames } from './webp'

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]

/**
 * Header facts of a GIF, APNG, PNG or WebP file, recognised by its contents, not by its name.
 * @throws ClipError when it is none of these, is truncated, or claims the impossible
 */
export function readClaims(file: Uint8Array): FileClaims {
  const text = (from: number, length: number) => String.fromCharCode(...file.subarray(from, from + length))
  if (file.length === 0) throw new ClipError('The file is empty. Fetch or export it again.')
  if (text(0, 6) === 'GIF89a' || text(0, 6) === 'GIF87a') return gifClaims(file)
  if (PNG.every((byte, i) => file[i] === byte)) return readPng(file)
  if (text(0, 4) === 'RIFF' && text(8, 4) === 'WEBP') return webpClaims(file)
  throw new ClipError(
    `${whatElse(file)} GIF, APNG, WebP, AVIF, MP4, MOV and WebM files can be read, and pictures in order.`,
  )
}

/**
 * A sentence about a file without moving pictures: its type, as far as its beginning tells, and what can be done with
 * it.
 */
function whatElse(file: Uint8Array): string {
  const head = file.subarray(0, 4096)
  if (head.every((byte) => byte === 0))
    return 'The file is filled with zeros where its beginning should be: it was not downloaded or copied completely. Fetch it again.'
  const text = new TextDecoder().decode(head)
  if (/<svg[\s>]/i.test(text))
    return 'The file is an SVG drawing, which has no frames. Drop it on an open loop to bring it in as layers.'
  if (/^\s*[{[]/.test(text)) return 'The file is JSON. A loop (.cyclon.json) is opened in the library.'
  if (/^\s*<(!doctype html|html)/i.test(text))
    return 'The file is a web page, perhaps in place of the file that was to be downloaded. Fetch it again.'
  return 'The file does not begin as any moving picture does: it may be damaged, or its name may say another kind than it is.'
}
