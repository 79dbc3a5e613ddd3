import localforage from 'localforage'
import { type Loop, LoopFileError, readLoop } from '@/core/loop'
import type { History } from './document'

const loops = localforage.createInstance({ name: 'cyclon', storeName: 'loops' })
const histories = localforage.createInstance({ name: 'cyclon', storeName: 'histories' })
const notes = localforage.createInstance({ name: 'cyclon', storeName: 'notes' })

/** Storage that is full, missing or broken; the work can still be saved to a file. */
export class StorageError extends Error {
  override readonly name = 'StorageError'
}

/** Runs something on the browser's storage. @throws StorageError with words that a person can act on. */
async function stored<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    const { name, message } = error as Error
    if (/quota/i.test(`${name} ${message}`))
      throw new StorageError(
        'The browser’s storage is full. Save the loop to a file, then delete loops from the library.',
      )
    throw new StorageError(
      `The browser’s storage cannot be used (${message || name}). Save the loop to a file so that nothing is lost.`,
    )
  }
}

interface LoopRecord {
  readonly loop: Loop
  readonly savedAt: number
}

/** A loop in the library; one whose record is damaged has no loop, but is kept and can be deleted. */
export type LibraryEntry = { readonly id: string; readonly savedAt: number } & (
  | { readonly loop: Loop }
  | { readonly loop: null; readonly problem: string }
)

function entryOf(id: string, record: unknown): LibraryEntry {
  const { loop, savedAt } = (record ?? {}) as Partial<LoopRecord>
  const time = typeof savedAt === 'number' ? savedAt : 0
  try {
    return { id, savedAt: time, loop: readLoop(loop) }
  } catch (error) {
    if (!(error instanceof LoopFileError)) throw error
    return { id, savedAt: time, loop: null, problem: error.message }
  }
}

/** All loops of the library, the last saved first. @throws StorageError */
export async function listLoops(): Promise<LibraryEntry[]> {
  const entries: LibraryEntry[] = []
  await stored(() =>
    loops.iterate((record, id) => {
      entries.push(entryOf(id, record))
    }),
  )
  return entries.sort((a, b) => b.savedAt - a.savedAt)
}

/** Writes a loop and its history, each in one transaction. @throws StorageError; then the stored loop is as it was. */
export async function saveLoop(loop: Loop, history?: History): Promise<void> {
  const record: LoopRecord = { loop, savedAt: Date.now() }
  await stored(() => loops.setItem(loop.id, record))
  if (history) await stored(() => histories.setItem(loop.id, { ...history, savedAt: record.savedAt }))
}

/** A loop with the history that was saved with it; null when the library has no such loop. @throws StorageError, LoopFileError */
export async function loadLoop(id: string): Promise<{ loop: Loop; history: History } | null> {
  const record = await stored(() => loops.getItem<LoopRecord>(id))
  if (!record) return null
  const loop = readLoop(record.loop)
  const kept = await stored(() => histories.getItem<History & { savedAt: number }>(id))
  const empty: History = { past: [], future: [] }
  return { loop, history: kept?.savedAt === record.savedAt ? readHistory(kept) : empty }
}

/** The steps of a stored history; none where any of them cannot be read. */
function readHistory({ past, future }: History): History {
  try {
    return { past: past.map(readLoop), future: future.map(readLoop) }
  } catch (error) {
    if (error instanceof LoopFileError) return { past: [], future: [] }
    throw error
  }
}

/** Takes a loop out of the library and returns what is needed to put it back. @throws StorageError */
export async function deleteLoop(id: string): Promise<() => Promise<void>> {
  const [record, history] = await stored(() => Promise.all([loops.getItem(id), histories.getItem(id)]))
  await stored(() => Promise.all([loops.removeItem(id), histories.removeItem(id)]))
  return () =>
    stored(async () => {
      await loops.setItem(id, record)
      if (history) await histories.setItem(id, history)
    })
}

/** Runs something once in the life of this browser's library, such as putting the demo loops into it. */
export async function onceInLibrary(what: string, work: () => Promise<void>): Promise<void> {
  if (await stored(() => notes.getItem(what))) return
  await work()
  await stored(() => notes.setItem(what, true))
}
