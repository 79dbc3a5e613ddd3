import { create } from 'zustand'
import type { LibraryEntry } from './list'
import { deleteForGood, type PutBack } from './trash'

/** A loop that was deleted for good from this page; it can be put back as long as the page is open. */
interface Deleted {
  readonly name: string
  readonly putBack: PutBack
}

export const useDeleted = create<{ readonly loops: readonly Deleted[] }>()(() => ({ loops: [] }))

/**
 * Deletes loops for good, as they were shown.
 * @returns how many of them stayed, since another tab changed them or took them back meanwhile @throws StorageError; those before it are deleted
 */
export async function deleteShown(entries: readonly LibraryEntry[]): Promise<number> {
  let stayed = 0
  for (const entry of entries) {
    const putBack = await deleteForGood(entry)
    if (!putBack) stayed++
    else
      useDeleted.setState(({ loops }) => ({ loops: [...loops, { name: entry.loop?.name ?? 'Damaged loop', putBack }] }))
  }
  return stayed
}

/** Puts back what was deleted for good from this page. @throws StorageError; what could not be put back can still be */
export async function putDeletedBack(): Promise<void> {
  for (const each of useDeleted.getState().loops) {
    await each.putBack()
    useDeleted.setState(({ loops }) => ({ loops: loops.filter((other) => other !== each) }))
  }
}
