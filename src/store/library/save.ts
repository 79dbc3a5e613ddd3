import type { Loop } from '@/core/document'
import { readStored } from '@/core/edit'
import { newId } from '@/core/id'
import { alone } from '../alone'
import { keepAssets, mediaOf, upToDate } from '../assets'
import type { History } from '../document'
import { pruneHistory, writeHistory } from './history'
import { loadLoop } from './load'
import { type LoopRecord, loops, recordOf, stored } from './records'

/** The library holds something else under the id than what was read here: another tab saved it since, or it was never read. */
export class ConflictError extends Error {
  override readonly name = 'ConflictError'
}

/**
 * Writes a loop and its history; returns the revision that names what was written. The record of the loop says where its
 * history is, and is written last, so that a page that is closed in the middle leaves the state before. What lies in the trash in the state
 * that this one grew from comes out of it; what was deleted for good comes back.
 * @param base the revision that this state grew from; without it the loop is new, and nothing may be stored under its id
 * @throws ConflictError when the library or its trash holds another revision; StorageError. Then what was stored is as it was.
 */
export const saveLoop = (loop: Loop, history?: History, base?: string | null): Promise<string> =>
  alone(async () => {
    const before = await stored(() => loops.getItem<LoopRecord>(loop.id))
    if (before && (base ?? null) !== revisionIn(before)) throw new ConflictError(conflictWords(before, base))
    const revision = newId()
    const media = mediaOf([loop, ...(history?.past ?? []), ...(history?.future ?? [])])
    const assets = await stored(() => keepAssets(media))
    const steps = history && (await writeHistory(loop, history, before?.revision))
    const record: LoopRecord = {
      loop,
      savedAt: Date.now(),
      media: assets,
      revision,
      ...(steps && { history: steps.place }),
    }
    try {
      await stored(() => loops.setItem(loop.id, record))
    } catch (error) {
      await steps?.undo()
      throw error
    }
    steps?.done(revision)
    // Remains of the old history belong to no loop, and go with the next listing of the library.
    if (before) await pruneHistory(loop.id, before, record).catch(() => {})
    return revision
  })

/** Changes what the library holds of a loop that is not open here, such as its name; its history stays. @throws StorageError, LoopFileError, ConflictError */
export async function changeStored(id: string, change: (loop: Loop) => Loop): Promise<void> {
  const found = await loadLoop(id)
  if (found) await saveLoop(change(found.loop), found.history, found.revision)
}

const revisionIn = ({ revision }: Partial<LoopRecord>): string => revision ?? ''

function conflictWords({ loop, deletedAt }: Partial<LoopRecord>, base?: string | null): string {
  const named = `“${loop?.name ?? 'The loop'}”`
  if (base === undefined || base === null)
    return `${named} is in the library already, as something else than what is open here.`
  return `${named} was changed ${deletedAt === undefined ? '' : 'and deleted '}in another tab since it was opened here.`
}

/** The revision of a loop, as it stands in the library; null when it has no such loop. @throws StorageError */
export async function revisionOf(id: string): Promise<string | null> {
  const record = await recordOf(id)
  return record && revisionIn(record)
}

/** A stored loop, null where its record is damaged, and whether it lies in the trash. */
export interface StoredState {
  readonly loop: Loop | null
  readonly trashed: boolean
}

/**
 * The state of an id in the library or its trash; null if it is unknown.
 * @throws StorageError
 */
export async function heldAs(id: string): Promise<StoredState | null> {
  const record = await stored(() => loops.getItem<LoopRecord>(id))
  if (record === null) return null
  const { loop } = readStored(await stored(() => upToDate(record.loop)))
  return { loop, trashed: record.deletedAt !== undefined }
}
