'use client'

import { Trash2, Undo2 } from 'lucide-react'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { listCards } from '@/store/cards'
import type { LibraryEntry } from '@/store/library/list'
import { TRASH_MS, trashLoop } from '@/store/library/trash'
import { tellTrouble } from '@/store/trouble'
import { Thumbnail } from '../playback/thumbnail'
import { useDeleting } from './use-deleting'

const DAY_MS = 24 * 3_600_000
const daysLeft = ({ deletedAt = 0 }: LibraryEntry): number =>
  Math.max(1, Math.ceil((deletedAt + TRASH_MS - Date.now()) / DAY_MS))

/**
 * Deleted loops: they can be brought back for thirty days, or deleted for good.
 * @param looks the trash is read again when it changes; a question that is open stays
 */
export function Trash({ looks, onChange }: { readonly looks: number; readonly onChange: () => Promise<void> }) {
  const [found, setFound] = useState<{ readonly looks: number; readonly entries: readonly LibraryEntry[] } | null>(null)
  useEffect(() => {
    // An earlier look may end after a later one.
    const show = (entries: readonly LibraryEntry[]) =>
      setFound((known) => (known && known.looks > looks ? known : { looks, entries }))
    listCards('trash').then(show, (error) => {
      tellTrouble('The trash could not be read.', error)
      show([])
    })
  }, [looks])
  const deleting = useDeleting(onChange)
  const bringBack = async (id: string) => {
    try {
      await trashLoop(id, false)
    } catch (error) {
      toast.error((error as Error).message)
    }
    await onChange()
  }
  if (!found)
    return (
      <p className="dim" aria-busy="true">
        Looking into the trash …
      </p>
    )
  const { entries } = found
  if (entries.length === 0)
    return (
      <>
        <p className="dim">The trash is empty.</p>
        {deleting.dialog}
      </>
    )
  return (
    <section aria-label="Trash">
      <div className="mb-3 flex items-center gap-3">
        <p className="dim">
          What is here can be brought back with its history for thirty days; it takes room in this browser until then.
        </p>
        <button type="button" className="btn btn-ghost btn-sm ms-auto" onClick={() => deleting.askToDelete(entries)}>
          Empty the trash
        </button>
      </div>
      <ul aria-label="Deleted loops" className="grid grid-cols-[repeat(auto-fill,minmax(250px,1fr))] gap-4">
        {entries.map((entry) => (
          <li key={entry.id} className="hairline overflow-hidden rounded-box border bg-base-100">
            {entry.loop && <Thumbnail loop={entry.loop} className="h-32" />}
            <div className="hairline border-t px-3 py-2">
              <h2 className="truncate font-semibold">{entry.loop?.name ?? 'Damaged loop'}</h2>
              <p className="dim figures">{daysLeft(entry) === 1 ? 'one day' : `${daysLeft(entry)} days`} left</p>
              <div className="mt-2 flex gap-2">
                <button type="button" className="btn btn-neutral btn-xs" onClick={() => void bringBack(entry.id)}>
                  <Undo2 size={13} aria-hidden="true" /> Bring back
                </button>
                <button type="button" className="btn btn-ghost btn-xs" onClick={() => deleting.askToDelete([entry])}>
                  <Trash2 size={13} aria-hidden="true" /> Delete for good
                </button>
              </div>
            </div>
          </li>
        ))}
      </ul>
      {deleting.dialog}
    </section>
  )
}
