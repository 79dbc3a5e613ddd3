'use client'

import { useId, useState } from 'react'

interface WordsFieldProps {
  readonly label: string
  readonly value: string
  readonly most: number
  readonly onChange: (value: string) => void
}

/** Several lines of words; taken when the field is left. */
export function WordsField({ label, value, most, onChange }: WordsFieldProps) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const commit = () => {
    if (draft !== null && draft !== value) onChange(draft.slice(0, most))
    setDraft(null)
  }
  return (
    <div className="flex items-start gap-1.5">
      <label htmlFor={id} className="dim w-19 shrink-0 truncate pt-1">
        {label}
      </label>
      <textarea
        id={id}
        className="textarea textarea-xs min-h-12 w-full min-w-0 bg-transparent px-1.5"
        rows={2}
        maxLength={most}
        data-draft={draft !== null}
        value={draft ?? value}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={commit}
        onKeyDown={(event) => {
          if (event.key === 'Escape') setDraft(null)
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) commit()
        }}
      />
    </div>
  )
}
