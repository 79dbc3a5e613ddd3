'use client'

import { WandSparkles } from 'lucide-react'
import { useSession } from '@/store/session'
import { OFFERED_EFFECTS, putEffect } from '../../commands'

/** Puts an effect on what is selected, or on all that lies behind. */
export function AddEffect({ on }: { on: string | null }) {
  const selected = useSession((session) => session.selection)
  const take = (value: string) => {
    const [where, id] = value.split(' ')
    const effect = OFFERED_EFFECTS.find((each) => each.id === id)
    if (effect) putEffect(effect, where === 'all' ? [] : selected)
  }
  const options = (where: 'it' | 'all') =>
    OFFERED_EFFECTS.map(({ id, label }) => (
      <option key={id} value={`${where} ${id}`} className="bg-base-100 text-base-content">
        {label}
      </option>
    ))
  return (
    <label className="flex items-center gap-1.5 pt-2">
      <WandSparkles size={14} aria-hidden="true" className="dim shrink-0" />
      <select
        className="select select-xs w-full min-w-0 bg-transparent ps-1.5"
        aria-label="Add an effect"
        value=""
        onChange={(event) => take(event.target.value)}
      >
        <option value="" className="bg-base-100 text-base-content">
          Add an effect …
        </option>
        {on !== null && (
          <optgroup label={on} className="bg-base-100 text-base-content">
            {options('it')}
          </optgroup>
        )}
        <optgroup label="On all of it" className="bg-base-100 text-base-content">
          {options('all')}
        </optgroup>
      </select>
    </label>
  )
}
