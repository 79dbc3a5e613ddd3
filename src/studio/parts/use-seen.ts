import { useEffect, useState } from 'react'
import { tellTrouble } from '@/store/trouble'
import { lastingService, seamClient } from '@/workers/page/clients'
import { WorkerStopped } from '@/workers/shared/client'

/** A loop is judged anew after this much time without a change, ms. */
const QUIET_MS = 400

/** The worker that looks. */
export type SeenBy = ReturnType<typeof seamClient>['service']

/** A result, and whether it answers the latest question. */
interface Seen<T> {
  readonly found: T
  readonly fresh: boolean
}

/**
 * Result of a separate worker on the pictures of a loop; null until the first one, and if there is no question.
 * @param ask the question, asked once it has stayed the same for a while: keep the function as long as its subject does
 * not change
 * @param trouble message if it fails
 */
export function useSeen<T>(ask: ((service: SeenBy) => Promise<T>) | null, trouble: string): Seen<T> | null {
  const [looking] = useState(() => lastingService(seamClient))
  const [seen, setSeen] = useState<{ readonly of: typeof ask; readonly found: T } | null>(null)
  useEffect(() => looking.end, [looking])
  useEffect(() => {
    if (!ask) return
    let current = true
    const waiting = setTimeout(() => {
      looking
        .ask(async ({ service }) => ask(service))
        .then(
          (found) => current && setSeen({ of: ask, found }),
          (error) => {
            if (!(error instanceof WorkerStopped)) tellTrouble(trouble, error)
          },
        )
    }, QUIET_MS)
    return () => {
      current = false
      clearTimeout(waiting)
    }
  }, [looking, ask, trouble])
  return ask && seen && { found: seen.found, fresh: seen.of === ask }
}
