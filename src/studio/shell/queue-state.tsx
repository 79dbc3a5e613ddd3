'use client'

import Link from 'next/link'
import { useEffect } from 'react'
import { useExport } from '@/store/export'
import { recallQueue, useQueue } from '@/store/queue'
import { runQueue } from '../run-queue'

/** The run of files, wherever one is: how far it is, and, where a page left it unfinished, the offer to go on. */
export function QueueState({ loopId }: { loopId?: string }) {
  const { items, state, interrupted } = useQueue()
  useEffect(() => void recallQueue(), [])
  const done = items.filter((item) => item.state === 'done' || item.state === 'failed').length
  if (items.length === 0 || (state === 'idle' && !interrupted)) return null
  const text = `${done} of ${items.length} files`
  const show = () => useExport.setState({ tab: 'queue' })
  return (
    <span className="flex items-center gap-1.5 whitespace-nowrap text-xs" data-testid="queue-notice">
      {loopId ? (
        <Link href={`/loop/${loopId}/export`} className="link-hover figures" onClick={show}>
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
