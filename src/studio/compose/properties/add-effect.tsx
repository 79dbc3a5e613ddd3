'use client'

import { WandSparkles } from 'lucide-react'
import { EFFECTS, putEffect } from '../../commands'

/** Puts an effect on what is selected, or on all where nothing is. */
export function AddEffect({ label }: { label: string }) {
  return (
    <label className="flex items-center gap-1.5 pt-2">
      <WandSparkles size={14} aria-hidden="true" className="dim shrink-0" />
      <select
        className="select select-xs w-full min-w-0 bg-transparent ps-1.5"
        aria-label={label}
        value=""
        onChange={(event) => putEffect(event.target.value)}
      >
        <option value="" className="bg-base-100 text-base-content">
          {label} …
        </option>
        {EFFECTS.map((kind) => (
          <option key={kind.kind} value={kind.kind} className="bg-base-100 text-base-content">
            {kind.label}
          </option>
        ))}
      </select>
    </label>
  )
}
