'use client'

import Link from 'next/link'
import { changeWords, partVariant } from '@/core/edit'
import { changeDocument, useDocument } from '@/store/document'

/** Says that the loop follows another one, and lets it go its own way. */
export function VariantBar() {
  const document = useDocument()
  const { variantOf } = document ?? {}
  if (!document || !variantOf) return null
  return (
    <div className="flex h-7 shrink-0 items-center gap-2 bg-neutral px-3 text-xs" role="status">
      <span>
        This is a variant ({changeWords(variantOf)}). It follows{' '}
        <Link className="underline" href={`/loop/${variantOf.id}/compose`}>
          its source
        </Link>{' '}
        until it is changed or parted.
      </span>
      <button type="button" className="btn btn-ghost btn-xs ms-auto" onClick={() => changeDocument(partVariant)}>
        Part it from its source
      </button>
    </div>
  )
}
