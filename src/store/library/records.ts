import type { Loop } from '@/core/document'
import { storeOf } from '../storage'

export const loops = storeOf('loops')
export const histories = storeOf('histories')
export const notes = storeOf('notes')

/** Storage that is full, missing or broken; the work can still be saved to a file. */
export class StorageError extends Error {
  override readonly name = 'StorageError'
}

/** Storage in which there is no room for what was to be written. */
export class StorageFull extends StorageError {}

/** Runs something on the browser's storage. @throws StorageError with words that a person can act on. */
export async function stored<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work()
  } catch (error) {
    const { name, message } = error as Error
    if (/quota/i.test(`${name} ${message}`))
      throw new StorageFull(
        'The browser’s storage is full. Save the loop to a file, then delete loops from the library and empty its trash.',
      )
    throw new StorageError(
      `The browser’s storage cannot be used (${message || name}). Save the loop to a file so that nothing is lost.`,
    )
  }
}

/**
 * Where a history is kept: what an undo leads to, the loop itself and what a redo leads to are one row of states, in blocks.
 * A block is written once: a save writes the last few states, however long the row is.
 */
export interface HistoryPlace {
  /** Keys of the blocks, in their order. */
  readonly blocks: readonly string[]
  /** States at the start of the first block that are too long ago to be undone. */
  readonly skip: number
  readonly past: number
  readonly future: number
}

/** Record of a loop in the library. */
export interface LoopRecord {
  readonly loop: Loop
  readonly savedAt: number
  /** Ids of the assets that it and its history are drawn from; in records of version 2, of the media. */
  readonly media?: readonly string[]
  /** Names this state of the loop. */
  readonly revision: string
  /** Absent where it has none, and in records of older versions, whose history is kept under their revision. */
  readonly history?: HistoryPlace
  /** When it was put into the trash; absent where it was not. */
  readonly deletedAt?: number
}

/** The key of a part of a loop's history. */
export const historyKey = (id: string, part: string) => `${id} ${part}`

/** The record of a loop, as long as it is not in the trash. */
export const recordOf = async (id: string): Promise<LoopRecord | null> => {
  const record = await stored(() => loops.getItem<LoopRecord>(id))
  return record?.deletedAt === undefined ? record : null
}
