import localforage from 'localforage'
import { followSource, type Loop, LoopFileError, newId, readLoop, readStates, withoutMedia } from '@/core/loop'
import type { History } from './document'
import { filesIn, filesOf, filled, filledHistory, keepFiles, keepOnly } from './media'

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
  /** Without its media. */
  readonly loop: Loop
  readonly savedAt: number
  /** Ids of the media that it and its history show. */
  readonly media?: readonly string[]
  /** Names this state of the loop; its history is kept under it. */
  readonly revision: string
}

const historyKey = (id: string, revision: string) => `${id} ${revision}`

/** The loop has been saved by somebody else, such as another tab, since it was read here. */
export class ConflictError extends Error {
  override readonly name = 'ConflictError'
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

/** Runs something while no other tab writes to the library, where the browser can see to that. */
const alone = <T>(work: () => Promise<T>): Promise<T> =>
  typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request('cyclon library', work) : work()

/** A variant as its source is now; one whose source is gone or damaged stays as it was. */
function following(loop: Loop, byId: ReadonlyMap<string, Loop | null>, seen: readonly string[] = []): Loop {
  const source = loop.variantOf && byId.get(loop.variantOf.id)
  return source && !seen.includes(source.id) ? followSource(loop, following(source, byId, [...seen, loop.id])) : loop
}

/**
 * All loops of the library, the last saved first; variants as their sources are now. They come without their media, which are
 * read when they are needed: withStoredMedia. @throws StorageError
 */
export const listLoops = (): Promise<LibraryEntry[]> =>
  alone(async () => {
    const entries: LibraryEntry[] = []
    const used = new Set<string>()
    const media = new Set<string>()
    await stored(() =>
      loops.iterate<Partial<LoopRecord> | null, void>((record, id) => {
        entries.push(entryOf(id, record))
        used.add(historyKey(id, record?.revision ?? ''))
        for (const shown of record?.media ?? []) media.add(shown)
      }),
    )
    await stored(() => keepOnly(media))
    // A page that was closed while it saved may have left a history that no loop owns.
    for (const key of await stored(() => histories.keys()))
      if (!used.has(key)) await stored(() => histories.removeItem(key))
    const byId = new Map(entries.map((entry) => [entry.id, entry.loop]))
    return entries
      .sort((a, b) => b.savedAt - a.savedAt)
      .map((entry) => (entry.loop ? { ...entry, loop: following(entry.loop, byId) } : entry))
  })

/** A loop of the list with its media. @throws StorageError */
export const withStoredMedia = (loop: Loop): Promise<Loop> => stored(() => filled(loop))

const recordOf = (id: string) => stored(() => loops.getItem<LoopRecord>(id))

/**
 * Writes a loop and its history; returns the revision that names what was written. The record of the loop says which
 * history is its own, and is written last, so that a page that is closed in the middle leaves the state before.
 * @param base the revision that this state grew from; without it the loop is written over whatever is there
 * @throws ConflictError when the library holds another revision; StorageError. Then what was stored is as it was.
 */
export const saveLoop = (loop: Loop, history?: History, base?: string | null): Promise<string> =>
  alone(async () => {
    const before = await recordOf(loop.id)
    if (base && before && before.revision !== base)
      throw new ConflictError(
        `“${before.loop?.name ?? 'The loop'}” was changed in another tab since it was opened here.`,
      )
    const revision = newId()
    const { past, future } = history ?? { past: [], future: [] }
    const files = filesIn([loop, ...past, ...future])
    try {
      await stored(() => keepFiles(files))
      const light = history && { past: past.map(withoutMedia), future: future.map(withoutMedia) }
      if (light) await stored(() => histories.setItem(historyKey(loop.id, revision), light))
      const record = { loop: withoutMedia(loop), savedAt: Date.now(), media: [...files.keys()], revision }
      await stored(() => loops.setItem(loop.id, record satisfies LoopRecord))
    } catch (error) {
      await histories.removeItem(historyKey(loop.id, revision)).catch(() => {})
      throw error
    }
    if (before) await stored(() => histories.removeItem(historyKey(loop.id, before.revision)))
    return revision
  })

/** A loop of the library, with the history that was saved with it. */
export interface StoredLoop {
  readonly loop: Loop
  readonly history: History
  readonly revision: string
}

/** The loops that a variant follows, one after the other. */
async function sourcesOf(loop: Loop): Promise<ReadonlyMap<string, Loop | null>> {
  const found = new Map<string, Loop | null>()
  for (let id = loop.variantOf?.id; id !== undefined && !found.has(id); id = found.get(id)?.variantOf?.id) {
    const source = entryOf(id, await recordOf(id)).loop
    found.set(id, source && (await stored(() => filled(source))))
  }
  return found
}

/** A loop with its history, a variant as its source is now; null when the library has no such loop. @throws StorageError, LoopFileError */
export async function loadLoop(id: string): Promise<StoredLoop | null> {
  const record = await recordOf(id)
  if (!record) return null
  const read = readLoop(record.loop)
  const own = await stored(() => filled(read))
  const loop = own.variantOf ? following(own, await sourcesOf(own)) : own
  const kept = await stored(() => histories.getItem<History>(historyKey(id, record.revision)))
  const history = readHistory(kept ?? { past: [], future: [] })
  return { loop, history: await stored(() => filledHistory(history)), revision: record.revision }
}

/** The revision of a loop, as it stands in the library; null when it has no such loop. @throws StorageError */
export async function revisionOf(id: string): Promise<string | null> {
  const record = await recordOf(id)
  return record && (record.revision ?? '')
}

/** What the library holds under an id, unread and without its media; null for nothing. @throws StorageError */
export const storedAs = async (id: string): Promise<unknown> => (await recordOf(id))?.loop ?? null

/** The steps of a stored history; none where any of them cannot be read. */
function readHistory(kept: History): History {
  const { past, future } = kept
  try {
    const states = readStates([...past, ...future])
    return { past: states.slice(0, past.length), future: states.slice(past.length) }
  } catch (error) {
    if (error instanceof LoopFileError) return { past: [], future: [] }
    throw error
  }
}

/** Takes a loop out of the library and returns what is needed to put it back. @throws StorageError */
export async function deleteLoop(id: string): Promise<() => Promise<void>> {
  const record = await recordOf(id)
  const key = historyKey(id, record?.revision ?? '')
  const history = await stored(() => histories.getItem(key))
  const files = await stored(() => filesOf(record?.media ?? []))
  await stored(() => Promise.all([loops.removeItem(id), histories.removeItem(key)]))
  return () =>
    stored(async () => {
      await keepFiles(files)
      if (history) await histories.setItem(key, history)
      await loops.setItem(id, record)
    })
}

/** Runs something once in the life of this browser's library, such as putting the demo loops into it. */
export async function onceInLibrary(what: string, work: () => Promise<void>): Promise<void> {
  if (await stored(() => notes.getItem(what))) return
  await work()
  await stored(() => notes.setItem(what, true))
}
