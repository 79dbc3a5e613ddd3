'use client'

import { useState } from 'react'
import { type Loop, MAX_NAME, MAX_NOTE } from '@/core/document'
import { Dialog } from '../parts'

interface NameDialogProps {
  readonly loop: Loop
  readonly onTake: (name: string, note: string) => void
  readonly onClose: () => void
}

/** The name of a loop, and what its maker wants to keep in mind of it. */
export function NameDialog({ loop, onTake, onClose }: NameDialogProps) {
  const [name, setName] = useState(loop.name)
  const [note, setNote] = useState(loop.note ?? '')
  return (
    <Dialog title="Name and note" open onClose={onClose}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault()
          if (name.trim()) onTake(name.trim(), note.trim())
        }}
      >
        <label className="block">
          <span className="dim">name</span>
          <input
            className="input input-sm w-full"
            value={name}
            maxLength={MAX_NAME}
            required
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="block">
          <span className="dim">note</span>
          <textarea
            className="textarea textarea-sm w-full"
            rows={5}
            value={note}
            maxLength={MAX_NOTE}
            placeholder="For whom it is, what is still to be done …"
            onChange={(event) => setNote(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-primary btn-sm">
          Keep
        </button>
      </form>
    </Dialog>
  )
}
