'use client'

import { Undo2 } from 'lucide-react'
import { toast } from 'sonner'
import { putDeletedBack, useDeleted } from '@/store/library/deleted'

/** Says what was deleted for good from this page, and takes it back. */
export function DeletedLine({ onChange }: { readonly onChange: () => Promise<void> }) {
  const loops = useDeleted((state) => state.loops)
  const [only] = loops
  if (!only) return null
  const bringBack = async () => {
    try {
      await putDeletedBack()
    } catch (error) {
      toast.error((error as Error).message)
    }
    await onChange()
  }
  return (
    <p role="status" className="hairline mb-4 flex items-center gap-3 rounded-field border px-3 py-1.5">
      <span>
        {loops.length === 1 ? `“${only.name}” was` : `${loops.length} loops were`} deleted for good. Until this page is
        closed, {loops.length === 1 ? 'it' : 'they'} can be brought back.
      </span>
      <button type="button" className="btn btn-neutral btn-xs ms-auto" onClick={() => void bringBack()}>
        <Undo2 size={13} aria-hidden="true" /> Bring {loops.length === 1 ? 'it' : 'them'} back
      </button>
    </p>
  )
}
