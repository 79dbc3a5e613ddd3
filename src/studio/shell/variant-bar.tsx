'use client'

import Link from 'next/link'
import { useEffect, useState } from 'react'
import { changeWords, partVariant } from '@/core/edit'
import { changeDocument, useDocument } from '@/store/document'
import { heldAs } from '@/store/library'
import { trashLoop } from '@/store/library/trash'
import { tellTrouble } from '@/store/trouble'

/** Where the source of a variant is. */
type Where = 'library' | 'trash' | 'nowhere'

/** Says that the loop follows another one, and where that is; lets it go its own way. */
export function VariantBar() {
  const document = useDocument()
  const { variantOf } = document ?? {}
  const source = variantOf?.id
  const [where, setWhere] = useState<Where>('library')
  useEffect(() => {
    if (source === undefined) return
    let shown = true
    heldAs(source).then(
      (held) => shown && setWhere(held ? (held.trashed ? 'trash' : 'library') : 'nowhere'),
      (error) => tellTrouble('Where the source of this variant is could not be told.', error),
    )
    return () => {
      shown = false
    }
  }, [source])
  if (!document || !variantOf) return null
  const takeBack = () =>
    trashLoop(variantOf.id, false).then(
      () => setWhere('library'),
      (error) => tellTrouble('The source could not be taken back.', error),
    )
  return (
    <div className="flex h-7 shrink-0 items-center gap-2 bg-neutral px-3 text-xs" role="status">
      <span>
        This is a variant ({changeWords(variantOf)}).{' '}
        {where === 'library' && (
          <>
            It follows{' '}
            <Link className="underline" href={`/loop/${variantOf.id}/compose`}>
              its source
            </Link>{' '}
            until it is changed or parted.
          </>
        )}
        {where === 'trash' && 'Its source is in the trash; it follows what lies there.'}
        {where === 'nowhere' && 'Its source is no longer in this browser: it stays as it was when that went.'}
      </span>
      {where === 'trash' && (
        <button type="button" className="btn btn-ghost btn-xs ms-auto" onClick={() => void takeBack()}>
          Take the source back
        </button>
      )}
      <button
        type="button"
        className={`btn btn-ghost btn-xs ${where === 'trash' ? '' : 'ms-auto'}`}
        onClick={() => changeDocument(partVariant)}
      >
        Part it from its source
      </button>
    </div>
  )
}
