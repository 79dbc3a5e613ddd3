import localforage from 'localforage'
import type { Loop } from '@/core/document'

export const loops = localforage.createInstance({ name: 'cyclon', storeName: 'loops' })
export const histories = localforage.createInstance({ name: 'cyclon', storeName: 'histories' })
export const notes = localforage.createInstance({ name: 'cyclon', storeName: 'notes' })

/** Storage that is full, missing or broken; the work can still be saved to a file. */
export class StorageError extends Error {
  override readonly name = 'StorageError'
}

/** Runs something on the browser's storage. @throws StorageError with words that a person can act on. */
export async function stored<T>(work: () => Promise<T>): Promise<T> {
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

/** What the library holds of a loop. */
export interface LoopRecord {
  /** Without its media. */
  readonly loop: Loop
  readonly savedAt: number
  /** Ids of the media that it and its history show. */
  readonly media?: readonly string[]
  /** Names this state of the loop; its history is kept under it. */
  readonly revision: string
}

export const historyKey = (id: string, revision: string) => `${id} ${revision}`

/** Runs something while no other tab writes to the library, where the browser can see to that. */
export const alone = <T>(work: () => Promise<T>): Promise<T> =>
  typeof navigator !== 'undefined' && navigator.locks ? navigator.locks.request('cyclon library', work) : work()

export const recordOf = (id: string) => stored(() => loops.getItem<LoopRecord>(id))
