import { alone } from '../alone'
import { notes, stored } from './records'

const KEPT = 'loops to begin with'

/** Ids of loops of the library that new ones can begin with, in the order in which they were said to. @throws StorageError */
export async function ownStarts(): Promise<readonly string[]> {
  const kept = await stored(() => notes.getItem<unknown>(KEPT))
  return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : []
}

/** Says of a loop that new ones can begin with it, or no longer. @returns the ids as they are then @throws StorageError */
export const setOwnStart = (id: string, is: boolean): Promise<readonly string[]> =>
  alone(async () => {
    const others = (await ownStarts()).filter((each) => each !== id)
    const next = is ? [...others, id] : others
    await stored(() => notes.setItem(KEPT, next))
    return next
  })
