import type { Loop } from '@/core/document'
import { newId } from '@/core/id'
import { alone } from '../alone'
import { keepFiles, storedFiles } from '../assets'
import { keepFollowers } from './followers'
import { historyKeys } from './history'
import { histories, historyKey, type LoopRecord, loops, stored } from './records'
import { forgetVerdict } from './verdicts'

/** The trash keeps a loop for thirty days. */
export const TRASH_MS = 30 * 24 * 3_600_000

/** The loop was deleted for good, by this tab or another. */
class GoneError extends Error {
  override readonly name = 'GoneError'
}

/** Puts a loop into the trash, with its history and its files, or takes it out again. @throws StorageError; GoneError where it is in neither */
export const trashLoop = (id: string, trashed: boolean): Promise<void> =>
  alone(async () => {
    const record = await stored(() => loops.getItem<LoopRecord>(id))
    if (!record) throw new GoneError('The loop has been deleted for good.')
    // A damaged entry may not even be a record.
    const { deletedAt: _was, ...kept } = record
    await stored(() => loops.setItem(id, trashed ? { ...kept, deletedAt: Date.now() } : kept))
  })

/** How many loops are in the trash. @throws StorageError */
export async function trashCount(): Promise<number> {
  let count = 0
  await stored(() =>
    loops.iterate<Partial<LoopRecord> | null, void>((record) => {
      if (record?.deletedAt !== undefined) count++
    }),
  )
  return count
}

/** A loop of the library or the trash as it was shown when somebody chose to delete it. */
interface Shown {
  readonly id: string
  readonly savedAt: number
  readonly deletedAt?: number
}

/** Puts back what was deleted for good; returns its id, another one where the library holds something else under the old one by then. @throws StorageError */
export type PutBack = () => Promise<string>

/**
 * Deletes a loop for good as it was shown: one that was saved, put into the trash or taken out of it since, by this tab or another, stays.
 * Variants of it stay as they are seen.
 * @returns what puts it back, as long as this page is open; null where it stayed @throws StorageError; then it is still there
 */
export async function deleteForGood({ id, savedAt, deletedAt }: Shown): Promise<PutBack | null> {
  await keepFollowers(new Set([id]))
  return alone(async () => {
    const record = await stored(() => loops.getItem<LoopRecord>(id))
    if (!record || savedTime(record) !== savedAt || record.deletedAt !== deletedAt) return null
    const blocks: (readonly [key: string, states: unknown])[] = []
    for (const key of historyKeys(id, record)) blocks.push([key, await stored(() => histories.getItem(key))])
    const files = await stored(() => storedFiles(record.media ?? []))
    await stored(() => loops.removeItem(id))
    await forgetVerdict(id)
    // Remains of a history belong to no loop, and go with the next listing of the library.
    for (const [key] of blocks) await histories.removeItem(key).catch(() => {})
    return () =>
      alone(() =>
        stored(async () => {
          const kept = (await loops.getItem(id)) === null ? record : renamed(record, newId())
          const to = kept === record ? id : kept.loop.id
          await keepFiles(files)
          const own = (key: string) => (to === id ? key : historyKey(to, key.slice(id.length + 1)))
          for (const [key, states] of blocks) if (states) await histories.setItem(own(key), statesOf(states, to))
          await loops.setItem(
            to,
            kept.history ? { ...kept, history: { ...kept.history, blocks: kept.history.blocks.map(own) } } : kept,
          )
          return to
        }),
      )
  })
}

/** When a record was saved; 0 for what is damaged. */
export const savedTime = (record: Partial<LoopRecord> | null): number =>
  typeof record?.savedAt === 'number' ? record.savedAt : 0

const renamed = (record: LoopRecord, id: string): LoopRecord => ({ ...record, loop: { ...record.loop, id } })

/** States of a history under an id; older versions kept a whole history under one key. */
function statesOf(kept: unknown, id: string): unknown {
  const renamedAll = (states: readonly Loop[]) => states.map((state) => (state.id === id ? state : { ...state, id }))
  if (Array.isArray(kept)) return renamedAll(kept)
  const { past, future } = kept as { readonly past?: readonly Loop[]; readonly future?: readonly Loop[] }
  return { past: renamedAll(past ?? []), future: renamedAll(future ?? []) }
}
