import { ClipError, readClaims } from '@/codecs/claims'
import type { SheetGrid } from '@/core/image'
import { picturesInZip } from './archive'
import { avif, image } from './image'
import type { OpenedClip } from './reader'
import { sequence, stillFrames } from './stills'

/** Comes when the first video is read. */
const video: typeof import('./video').videoFrames = async (...args) => (await import('./video')).videoFrames(...args)

export { FullFrames } from './full'
export type { OpenedClip } from './reader'

/**
 * Opens one file, a ZIP, or several pictures as a sequence; what it is is read from its contents, not from its name.
 * @param grid how a sprite sheet is cut; found where it is left out
 * @throws ClipError where it cannot be read.
 */
export async function openFrames(files: readonly File[], grid?: SheetGrid): Promise<OpenedClip> {
  const [file] = files
  if (!file) throw new ClipError('No file was given.')
  if (files.length > 1) return sequence(files)
  const head = new Uint8Array(await file.slice(0, 16).arrayBuffer())
  const text = (from: number, to: number) => String.fromCharCode(...head.subarray(from, to))
  if (text(0, 4) === 'PK\u0003\u0004') {
    const found = await picturesInZip(file)
    return found.length > 1 ? sequence(found) : openFrames(found, grid)
  }
  if (text(4, 8) === 'ftyp')
    return text(8, 11) === 'avi' ? avif(file) : video(file, text(8, 10) === 'qt' ? 'MOV' : 'MP4')
  if (head[0] === 0x1a && head[1] === 0x45 && head[2] === 0xdf && head[3] === 0xa3) return video(file, 'WebM')
  if (head[0] === 0xff && head[1] === 0xd8) return stillFrames(file, 'JPEG', grid)
  const bytes = new Uint8Array(await file.arrayBuffer())
  const claims = readClaims(bytes)
  const isStill = claims.delaysMs.length === 1 && claims.format !== 'gif'
  return isStill ? stillFrames(file, claims.format === 'webp' ? 'WebP' : 'PNG', grid) : image(bytes, claims, file.name)
}
