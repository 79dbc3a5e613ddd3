import type { Remote } from 'comlink'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import { exportClient } from '@/workers/clients'
import type { ExportService } from '@/workers/export.worker'
import { problemText } from '../files'

/** A pause after which what has changed is asked for, ms. */
const QUIET_MS = 400

/** An answer of the export worker about what `inputs` say, null while it is being worked out; a newer question ends an older one. */
export function useInWorker<T>(
  ask: (service: Remote<ExportService>) => Promise<T>,
  inputs: readonly unknown[],
): T | null {
  const [answer, setAnswer] = useState<T | null>(null)
  useEffect(() => {
    setAnswer(null)
    let client: ReturnType<typeof exportClient> | null = null
    const timer = setTimeout(() => {
      client = exportClient()
      const own = client
      Promise.race([ask(own.service), own.broken])
        .then(setAnswer, (error) => toast.error(problemText(error).title))
        .finally(() => own.end())
    }, QUIET_MS)
    return () => {
      clearTimeout(timer)
      client?.end()
    }
    // biome-ignore lint/correctness/useExhaustiveDependencies: asked anew when its inputs change, not with every drawing
  }, inputs)
  return answer
}
