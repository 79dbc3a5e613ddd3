import { readClaims } from '@/codecs/claims'
import { namesInZip } from '@/codecs/unzip'
import { picturesAmong } from '@/core/media/numbering'

/** Larger files are not read to see what they hold: the worker says what it makes of them. */
const MAX_SNIFFED_BYTES = 64 * 1024 * 1024

/** Where a file lay in the folder that it came in, or its name. */
export const filePath = (file: File & { readonly path?: string }): string =>
  (file.webkitRelativePath || file.path || file.name).replace(/^\.?\//, '')

/** Whether a file holds moving pictures, by its contents; one that is damaged counts by its name. */
export async function isClipFile(file: File): Promise<boolean> {
  if (/\.(mp4|m4v|mov|webm|mkv|avif)$/i.test(file.name) || file.type.startsWith('video/')) return true
  if (!/\.(gif|png|apng|webp)$/i.test(file.name) && !/^image\/(gif|png|apng|webp)$/.test(file.type)) return false
  if (file.size > MAX_SNIFFED_BYTES) return true
  try {
    const claims = readClaims(new Uint8Array(await file.arrayBuffer()))
    return claims.format === 'gif' || claims.delaysMs.length > 1
  } catch {
    return /\.(gif|apng)$/i.test(file.name)
  }
}

/** Whether a file is a ZIP of pictures and no Cyclon loop. */
async function isPictureArchive(file: File): Promise<boolean> {
  if (!/\.zip$/i.test(file.name) || /\.cyclon\.zip$/i.test(file.name) || file.size > MAX_SNIFFED_BYTES) return false
  try {
    const names = namesInZip(new Uint8Array(await file.arrayBuffer()))
    return !names.includes('loop.cyclon.json') && picturesAmong(names).length > 0
  } catch {
    return false
  }
}

const isStill = ({ name }: File) => /\.(png|jpe?g|webp)$/i.test(name)

/**
 * Those of some files that are one clip: moving pictures, an archive of pictures, or the pictures of a folder. Where no loop
 * is open that pictures could become layers of, these are a sequence or a sheet, too.
 */
export async function clipAmong(files: readonly File[], loopIsOpen: boolean): Promise<File[]> {
  for (const file of files) if ((await isClipFile(file)) || (await isPictureArchive(file))) return [file]
  const stills = files.filter(isStill)
  const ofFolder = stills.filter((file) => filePath(file).includes('/'))
  if (ofFolder.length > 1) return ofFolder
  return loopIsOpen ? [] : stills
}
