import { type Loop, readLoop, withFaces } from '@/core/document'
import { following, readStored } from '@/core/edit'
import { upToDate } from '../assets'
import type { History } from '../document'
import { readHistory } from './history'
import { type LoopRecord, loops, recordOf, stored } from './records'

/** A loop of the library, with the history that was saved with it. */
export interface StoredLoop {
  readonly loop: Loop
  readonly history: History
  readonly revision: string
}

/** The loop of a record, in today's version. */
const storedLoop = (record: LoopRecord | null) => stored(() => upToDate(record?.loop))

/** The loops that a variant follows, one after the other, in the library or the trash. */
async function sourcesOf(loop: Loop): Promise<ReadonlyMap<string, Loop | null>> {
  const found = new Map<string, Loop | null>()
  for (let id = loop.variantOf?.id; id !== undefined && !found.has(id); id = found.get(id)?.variantOf?.id) {
    const source = id
    found.set(source, readStored(await storedLoop(await stored(() => loops.getItem<LoopRecord>(source)))).loop)
  }
  return found
}

/** A loop as it is shown: a variant as its source is now. @throws StorageError */
export const asItIs = async (own: Loop): Promise<Loop> => (own.variantOf ? following(own, await sourcesOf(own)) : own)

/** A loop with its history, a variant as its source is now; null when the library has no such loop. @throws StorageError, LoopFileError */
export async function loadLoop(id: string): Promise<StoredLoop | null> {
  const record = await recordOf(id)
  if (!record) return null
  const loop = await asItIs(readLoop(await storedLoop(record)))
  const history = await readHistory(id, record)
  for (const each of [loop, ...history.past, ...history.future]) await withFaces(each)
  return { loop, history, revision: record.revision }
}
