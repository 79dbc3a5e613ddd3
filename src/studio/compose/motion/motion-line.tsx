'use client'

import { ChevronUp } from 'lucide-react'
import { checkMotions } from '@/core/closing'
import type { Layer, Loop } from '@/core/document'
import { setSession } from '@/store/session'
import { isWellHome } from '../../seam/motions-at-seam'
import { stillWords } from './still-words'

/** The motions in a line, while nothing is selected that moves: how many, and how many of them come home; or that the selected layer has none yet. */
export function MotionLine({ loop, layer }: { readonly loop: Loop; readonly layer: Layer | undefined }) {
  const reports = checkMotions(loop)
  const home = reports.filter(isWellHome).length
  return (
    <section aria-label="Motion" className="hairline flex h-9 shrink-0 items-center gap-3 border-t bg-base-100 px-3">
      <h2 className="font-semibold text-xs">Motion</h2>
      <p className="dim truncate text-xs">
        {layer
          ? stillWords(layer)
          : reports.length === 0
            ? 'No property has a motion yet. Select a layer to give it one.'
            : `${reports.length === 1 ? '1 motion' : `${reports.length} motions`}, ${home === reports.length ? 'all come home' : `${home} come home`}. Select a layer to see how it moves.`}
      </p>
      {(layer || reports.length > 0) && (
        <button
          type="button"
          className="btn btn-ghost btn-xs ms-auto font-normal"
          onClick={() => setSession({ motionOpen: true })}
        >
          {layer ? 'Give it one' : 'List them'} <ChevronUp size={13} aria-hidden="true" />
        </button>
      )}
    </section>
  )
}
