import { type Loop, MAX_NAME } from '@/core/document'
import { sheetOf } from '@/core/edit'
import { openUnsaved } from '@/store/autosave'

/** Opens a sheet of loops; returns its id, and in words how truly they run. @throws StorageError, RangeError */
export async function placeTogether(loops: readonly Loop[]): Promise<{ readonly id: string; readonly words: string }> {
  const { loop, worst } = sheetOf(loops, `${loops[0]?.name ?? 'Loops'} and others`.slice(0, MAX_NAME))
  await openUnsaved(loop)
  const words =
    worst === 0
      ? 'All run exactly at their own pace.'
      : `The one that is bent most runs ${(100 * worst).toFixed(2)} % beside its own pace.`
  return { id: loop.id, words }
}
