import type { Loop } from '@/core/document'
import { readStored } from '@/core/edit'
import { newId } from '@/core/id'
import { alone } from '../alone'
import { keepAssets, mediaOf, upToDate } from '../assets'
import type { History } from '../document'
import { pruneHistory, writeHistory } from './history'
import { loadLoop } from './load'
import { type LoopRecord, loops, recordOf, stored } from './records'

/** The loop has been saved by somebody else, such as another tab, since it was read here. */
export class ConflictError extends Error {
  override readonly name = 'ConflictError'
}

/**
 * Writes a loop and its history; returns the revision that names what was written. The record of the loop says where its
 * history is, and is written last, so that a page that is closed in the middle leaves the state before.
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
    if (before) await pruneHistory(loop.id, before, record)
    return revision
  })

/** Changes what the library holds of a loop that is not open here, such as its name; its history stays. @throws StorageError, LoopFileError, ConflictError */
export async function changeStored(id: string, change: (loop: Loop) => Loop): Promise<void> {
  const found = await loadLoop(id)
  if (found) await saveLoop(change(found.loop), found.history, found.revision)
}

/** The revision of a loop, as it stands in the library; null when it has no such loop. @throws StorageError */
export async function revisionOf(id: string): Promise<string | null> {
  const record = await recordOf(id)
  return record && (record.revision ?? '')
}

/** The loop that the library, or its trash, holds under an id; null for none that can be read. @throws StorageError */
export const storedAs = async (id: string, from: 'library' | 'trash' = 'library'): Promise<Loop | null> => {
  const record = await stored(() => loops.getItem<LoopRecord>(id))
  if (!record || (record.deletedAt !== undefined) !== (from === 'trash')) return null
  return readStored(await stored(() => upToDate(record.loop))).loop
}
