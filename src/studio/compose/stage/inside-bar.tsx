'use client'

import { ArrowLeft } from 'lucide-react'
import { placedLoops } from '@/core/document'
import { useDocument, useInside, useOpenLoop } from '@/store/document'
import { openInside } from '@/store/session'

/** Says which placed loop is being worked on, how often it is placed, and leads back. */
export function InsideBar() {
  const document = useDocument()
  const inner = useOpenLoop()
  const inside = useInside()
  if (!document || !inner || inside === null) return null
  const places = [document, ...document.loops]
    .flatMap(({ layers }) => placedLoops(layers))
    .filter((id) => id === inside).length
  return (
    <div className="flex h-7 shrink-0 items-center gap-2 bg-neutral px-2 text-xs" role="status">
      <button type="button" className="btn btn-ghost btn-xs" onClick={() => openInside(null)}>
        <ArrowLeft size={13} aria-hidden="true" /> Back to {document.name}
      </button>
      <span>
        You are in <strong>{inner.name}</strong>; what you change here shows in{' '}
        {places === 1 ? 'its place' : `all ${places} places`}.
      </span>
    </div>
  )
}
