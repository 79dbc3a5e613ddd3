import type { Remote } from 'comlink'
import { useEffect, useState } from 'react'
import { toast } from 'sonner'
import type { ExportService } from '@/workers/inside/export.worker'
import { exportClient } from '@/workers/page/clients'
import { problemText } from '../files'

/** Something that an export worker is asked; another one whenever what it asks about changes. */
export type Question<T> = (service: Remote<ExportService>) => Promise<T>

/** A pause after which what has changed is asked for, ms. */
const QUIET_MS = 400

/** The export worker's answer to a question, null while it is being worked out; another question ends the one before. */
export function useInWorker<T>(ask: Question<T>): T | null {
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
  }, [ask])
  return answer
}
