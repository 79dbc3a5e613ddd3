import { fileOpen, fileSave } from 'browser-fs-access'
import type { Remote } from 'comlink'
import { formatLoop, holdsMedia, type Loop, LoopFileError, MAX_FILE } from '@/core/document'
import { type Files, keepAtHand } from '@/core/media'
import type { ImportService } from '@/workers/inside/import.worker'
import { importClient } from '@/workers/page/clients'

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

/** Asks the worker that reads and packs files, which ends afterwards: archives take much memory. @throws LoopFileError */
async function inWorker<T>(
  work: (service: Remote<ImportService>) => Promise<{ done: T } | { problem: string; advice: string }>,
): Promise<T> {
  const client = importClient()
  try {
    const outcome = await client.ask(work)
    if ('done' in outcome) return outcome.done
    throw new LoopFileError(outcome.problem, outcome.advice)
  } finally {
    client.end()
  }
}

/** A loop with the files that it shows, as an archive. @throws LoopFileError */
export const loopArchive = (loop: Loop): Promise<Uint8Array<ArrayBuffer>> =>
  inWorker<Uint8Array<ArrayBuffer>>(async (service) => service.archive(loop))

/** Saves a loop as readable JSON, or, where it holds pictures or clips, as an archive of that and their files. */
export async function saveLoopFile(loop: Loop): Promise<boolean> {
  if (!holdsMedia(loop))
    return saveFile(new Blob([formatLoop(loop)], { type: 'application/json' }), fileName(loop, '.cyclon.json'))
  const bytes = await loopArchive(loop)
  return saveFile(new Blob([bytes], { type: 'application/zip' }), fileName(loop, '.cyclon.zip'))
}

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

/** Reads a loop from a file, off the page's thread. @throws LoopFileError; a file that is too large is not even read. */
export async function readLoopFile(file: File): Promise<Loop> {
  if (file.size > (/\.zip$/i.test(file.name) ? 16 : 4) * MAX_FILE)
    throw new LoopFileError(
      `${file.name} is larger than any loop file (${Math.round(file.size / 1e6)} MB).`,
      'Check that it is a .cyclon.json or .cyclon.zip file and not something else renamed.',
    )
  return readLoopBytes(new Uint8Array(await file.arrayBuffer()))
}

/** The loop in the JSON or the archive of one, its files taken to hand and its models measured, off the page's thread. @throws LoopFileError */
export async function readLoopBytes(bytes: Uint8Array): Promise<Loop> {
  const { loop, files } = await inWorker<{ loop: Loop; files: Files }>(async (service) => service.loop(bytes))
  keepAtHand(files)
  return loop
}

/** Words for an error: the problem and the advice. */
export function problemText(error: unknown): { title: string; description?: string } {
  if (error instanceof LoopFileError) return { title: error.message, description: error.advice }
  return { title: error instanceof Error ? error.message : String(error) }
}
