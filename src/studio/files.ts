import { fileOpen, fileSave } from 'browser-fs-access'
import { isZip, unzipProject, zipProject } from '@/codecs'
import { formatLoop, holdsMedia, type Loop, LoopFileError, MAX_FILE, parseLoop } from '@/core/loop'

/** A file name of a loop: its name in letters that every system takes. */
export const fileName = (loop: Pick<Loop, 'name'>, ending: string): string =>
  `${
    loop.name
      .trim()
      .toLowerCase()
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/g, '') || 'loop'
  }${ending}`

/** True when the person closed the dialog without choosing. */
const isAbort = (error: unknown) => error instanceof DOMException && error.name === 'AbortError'

/** Asks where to save a file and writes it; false when the person chose nowhere. */
export async function saveFile(blob: Blob, name: string): Promise<boolean> {
  try {
    await fileSave(blob, { fileName: name, extensions: [name.slice(name.lastIndexOf('.'))] })
    return true
  } catch (error) {
    if (isAbort(error)) return false
    throw error
  }
}

/** Saves a loop as readable JSON, or, where it holds pictures or clips, as an archive of that and their files. */
export const saveLoopFile = (loop: Loop): Promise<boolean> =>
  holdsMedia(loop)
    ? saveFile(new Blob([zipProject(loop)], { type: 'application/zip' }), fileName(loop, '.cyclon.zip'))
    : saveFile(new Blob([formatLoop(loop)], { type: 'application/json' }), fileName(loop, '.cyclon.json'))

/** Asks for a loop file and reads it; null when the person chose none. @throws LoopFileError */
export async function chooseLoopFile(): Promise<Loop | null> {
  try {
    return await readLoopFile(
      await fileOpen({ extensions: ['.json', '.zip'], mimeTypes: ['application/json', 'application/zip'] }),
    )
  } catch (error) {
    if (isAbort(error)) return null
    throw error
  }
}

/** Reads a loop from a file. @throws LoopFileError; a file that is too large is not even read. */
export async function readLoopFile(file: File): Promise<Loop> {
  if (file.size > (/\.zip$/i.test(file.name) ? 16 : 4) * MAX_FILE)
    throw new LoopFileError(
      `${file.name} is larger than any loop file (${Math.round(file.size / 1e6)} MB).`,
      'Check that it is a .cyclon.json or .cyclon.zip file and not something else renamed.',
    )
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer())
  if (isZip(head)) return unzipProject(new Uint8Array(await file.arrayBuffer()))
  return parseLoop(await file.text())
}

/** What went wrong, and what can be done, for people. */
export function problemText(error: unknown): { title: string; description?: string } {
  if (error instanceof LoopFileError) return { title: error.message, description: error.advice }
  return { title: error instanceof Error ? error.message : String(error) }
}
