import { useEffect, useState } from 'react'
import { tellTrouble } from '@/store/trouble'
import { WorkerStopped } from '@/workers/client'
import { lastingService, seamClient } from '@/workers/clients'

/** Quiet for so long, a loop is looked at anew, ms. */
const QUIET_MS = 400

/** The worker that looks. */
export type SeenBy = ReturnType<typeof seamClient>['service']

/** What was seen, and whether it is what was asked last. */
interface Seen<T> {
  readonly found: T
  readonly fresh: boolean
}

/**
 * What a worker of its own sees in the pictures of a loop; null until it has looked once, and where there is nothing to ask.
 * @param ask which is asked when it has been the same one for a while: keep it for as long as what it asks about does not change
 * @param trouble said where it fails
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
