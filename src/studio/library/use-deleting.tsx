'use client'

import dynamic from 'next/dynamic'
import { useState } from 'react'
import { toast } from 'sonner'
import { deleteShown } from '@/store/library/deleted'
import type { LibraryEntry } from '@/store/library/list'
import { StorageFull } from '@/store/library/records'
import { trashLoop } from '@/store/library/trash'

const DeleteDialog = dynamic(() => import('./delete-dialog').then((module) => module.DeleteDialog), { ssr: false })

interface Asked {
  readonly entries: readonly LibraryEntry[]
  /** Why they cannot go into the trash; null for what lies there. */
  readonly why: string | null
}

/** Puts loops into the trash, and asks before any are deleted for good; `dialog` is to be shown. */
export function useDeleting(refresh: () => Promise<void>) {
  const [asked, setAsked] = useState<Asked | null>(null)
  const tell = (error: unknown) => void toast.error((error as Error).message)

  /** Loops that are sound go into the trash, as long as there is room in it. */
  const intoTrash = async (loops: readonly LibraryEntry[]) => {
    const binned: LibraryEntry[] = []
    try {
      for (const entry of loops) {
        await trashLoop(entry.id, true)
        binned.push(entry)
      }
    } catch (error) {
      if (error instanceof StorageFull)
        setAsked({
          entries: loops.slice(binned.length),
          why: 'The browser’s storage is full: there is no room even in the trash.',
        })
      else tell(error)
    }
    await refresh()
    const [only] = binned
    if (!only) return
    const restore = async () => {
      try {
        for (const { id } of binned) await trashLoop(id, false)
      } catch (error) {
        tell(error)
      }
      await refresh()
    }
    const [what, back] =
      binned.length === 1 ? [`${only.loop?.name} was`, 'it'] : [`${binned.length} loops were`, 'them']
    toast(`${what} deleted.`, {
      duration: 15_000,
      action: { label: `Bring ${back} back`, onClick: () => void restore() },
    })
  }
  const remove = async (entries: readonly LibraryEntry[]) => {
    const damaged = entries.filter(({ loop }) => !loop)
    if (damaged.length > 0) setAsked({ entries: damaged, why: 'What cannot be read cannot go into the trash.' })
    await intoTrash(entries.filter(({ loop }) => loop))
  }
  const deleteAsked = async ({ entries }: Asked) => {
    setAsked(null)
    try {
      const stayed = await deleteShown(entries)
      if (stayed > 0)
        toast(`${stayed === 1 ? 'One loop was' : `${stayed} loops were`} changed in another tab meanwhile, and stayed.`)
    } catch (error) {
      tell(error)
    }
    await refresh()
  }
  return {
    remove,
    askToDelete: (entries: readonly LibraryEntry[]) => setAsked({ entries, why: null }),
    dialog: asked && <DeleteDialog {...asked} onTake={() => void deleteAsked(asked)} onClose={() => setAsked(null)} />,
  }
}
