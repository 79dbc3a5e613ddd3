'use client'

import Link from 'next/link'
import { useEffect } from 'react'
import { recallQueue, useQueue } from '@/store/queue'
import { runQueue } from '../run-queue'

/** The run of files, wherever one is: how far it is, and, where a page left it unfinished, the offer to go on. With an address it leads to the list of them. */
export function QueueState({ where, onShow }: { where?: string; onShow?: () => void }) {
  const { items, state, interrupted } = useQueue()
  useEffect(() => void recallQueue(), [])
  const done = items.filter((item) => item.state === 'done' || item.state === 'failed').length
  if (items.length === 0 || (state === 'idle' && !interrupted)) return null
  const text = `${done} of ${items.length} files`
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap text-xs" data-testid="queue-notice">
      {where ? (
        <Link href={where} className="link-hover figures" onClick={() => onShow?.()}>
          {text}
        </Link>
      ) : (
        <span className="figures">{text}</span>
      )}
      {interrupted && (
        <button type="button" className="btn btn-primary btn-xs" onClick={runQueue}>
          Go on writing
        </button>
      )}
      {state === 'paused' && <span className="dim">paused</span>}
    </span>
  )
}
