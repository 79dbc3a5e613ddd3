import { type Loop, readLoop, withFaces } from '@/core/document'
import { following, readStored } from '@/core/edit'
import type { History } from '../document'
import { filled, filledHistory } from '../media'
import { readHistory } from './history'
import { recordOf, stored } from './records'

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
    const source = readStored((await recordOf(id))?.loop).loop
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
  const history = await readHistory(id, record)
  for (const each of [loop, ...history.past, ...history.future]) await withFaces(each)
  return { loop, history: await stored(() => filledHistory(history)), revision: record.revision }
}
