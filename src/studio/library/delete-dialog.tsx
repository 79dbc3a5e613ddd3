'use client'

import type { LibraryEntry } from '@/store/library/list'
import { Dialog } from '../parts'

interface DeleteDialogProps {
  readonly entries: readonly LibraryEntry[]
  /** Why they cannot go into the trash; null for what lies there. */
  readonly why: string | null
  readonly onTake: () => void
  readonly onClose: () => void
}

/** Asks before loops are deleted for good. */
export function DeleteDialog({ entries, why, onTake, onClose }: DeleteDialogProps) {
  const [only] = entries
  const what = entries.length === 1 ? `“${only?.loop?.name ?? 'Damaged loop'}”` : `${entries.length} loops`
  return (
    <Dialog title={`Delete ${what} for good?`} open onClose={onClose}>
      {why && <p className="mb-2">{why}</p>}
      <p className="dim">
        {entries.length === 1 ? 'It goes' : 'They go'} with {entries.length === 1 ? 'its' : 'their'} history. As long as
        this page stays open, that can be taken back.
      </p>
      <div className="mt-4 flex gap-2">
        <button type="button" className="btn btn-error btn-sm" onClick={onTake}>
          Delete for good
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Keep
        </button>
      </div>
    </Dialog>
  )
}
