'use client'

import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { formatRate, formatSeconds, loopSeconds } from '@/core/clock'
import type { Loop } from '@/core/document'
import { paceOf, paceWords, placeLoop, secondsOf } from '@/core/edit'
import { endCards, listCards } from '@/store/cards'
import { changeLoop, currentLoop, useDocument, useInside } from '@/store/document'
import type { LibraryEntry } from '@/store/library'
import { setSession, useSession } from '@/store/session'
import { WorkerStopped } from '@/workers/shared/client'
import { Dialog } from '../../parts'

/** Chooses a loop of the library, or one that the document holds, to be placed as a layer. */
export function PlaceLoopDialog() {
  const open = useSession((session) => session.placing)
  const close = () => setSession({ placing: false })
  return (
    <Dialog title="Place a loop" open={open} onClose={close}>
      <Choice onDone={close} />
    </Dialog>
  )
}

function Choice({ onDone }: { onDone: () => void }) {
  const document = useDocument()
  const inside = useInside()
  const [entries, setEntries] = useState<readonly LibraryEntry[] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    listCards().then(setEntries, (error: Error) => {
      if (error instanceof WorkerStopped) return
      setEntries([])
      setProblem(error.message)
    })
    return endCards
  }, [])
  if (!document) return null
  const held = document.loops.map((inner): Loop => ({ ...document, ...inner }))
  const stored = (entries ?? []).flatMap(({ loop }) => (loop && loop.id !== document.id ? [loop] : []))
  const loops = [...held, ...stored.filter(({ id }) => !held.some((each) => each.id === id))]
  const place = (inner: Loop) => {
    try {
      const outer = currentLoop()
      if (!outer) return
      const { loop, layer } = placeLoop(outer, inner, inside)
      if (!changeLoop(() => loop)) return
      const pace = paceWords(paceOf(outer, secondsOf(inner)))
      if (pace) toast(`${layer.name} is placed.`, { description: pace, duration: 10_000 })
      setSession({ selection: [layer.id], property: 'time', placing: false })
      onDone()
    } catch (error) {
      toast.error((error as Error).message)
    }
  }
  return (
    <>
      {problem && (
        <p role="alert" className="mb-2 text-error">
          {problem}
        </p>
      )}
      {entries === null ? (
        <p className="dim" aria-busy="true">
          Looking for your loops …
        </p>
      ) : loops.length === 0 ? (
        <p className="dim">The library holds no other loop yet.</p>
      ) : (
        <ul className="max-h-80 space-y-0.5 overflow-y-auto" aria-label="Loops to place">
          {loops.map((loop) => (
            <li key={loop.id}>
              <button
                type="button"
                className="btn btn-ghost btn-sm w-full justify-between font-normal"
                onClick={() => void place(loop)}
              >
                <span className="truncate">{loop.name}</span>
                <span className="dim figures text-xs">
                  {held.some(({ id }) => id === loop.id) ? 'in this document · ' : ''}
                  {loop.length} f at {formatRate(loop.rate)}/s · {formatSeconds(loopSeconds(loop.length, loop.rate), 2)}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </>
  )
}
