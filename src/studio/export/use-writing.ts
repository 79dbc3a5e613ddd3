import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Loop } from '@/core/document'
import type { FileSettings } from '@/core/output'
import type { ExportedFile, ExportProgress } from '@/workers/inside/export.worker'
import { type Writing, writeTogether } from '@/workers/page/writing'
import { fileName, problemText } from '../files'

export type Work =
  | { readonly state: 'idle' }
  | { readonly state: 'busy'; readonly progress: ExportProgress; readonly since: number }
  | {
      readonly state: 'done'
      readonly result: ExportedFile
      readonly loop: Loop
      readonly settings: FileSettings
      readonly url: string
    }
  | { readonly state: 'failed'; readonly title: string }

/** Writes one file at a time, and keeps the last one. */
export function useWriting() {
  const [work, setWork] = useState<Work>({ state: 'idle' })
  const running = useRef<Writing | null>(null)
  useEffect(() => () => running.current?.cancel(), [])
  const url = work.state === 'done' ? work.url : null
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url])

  const cancel = () => {
    running.current?.cancel()
    running.current = null
    setWork({ state: 'idle' })
    toast('The export was cancelled; no file was written.')
  }
  const write = async (loop: Loop, settings: FileSettings) => {
    running.current?.cancel()
    const since = performance.now()
    setWork({ state: 'busy', progress: { stage: 'drawing and writing', share: 0 }, since })
    const own = writeTogether([{ loop, settings, name: fileName(loop, '') }], (_, progress) => {
      if (running.current === own) setWork({ state: 'busy', progress, since })
    })
    running.current = own
    try {
      const result = (await own.files[0]) as ExportedFile
      if (running.current !== own) return
      const blob = new Blob([result.bytes], { type: result.type })
      setWork({ state: 'done', result, loop, settings, url: URL.createObjectURL(blob) })
    } catch (error) {
      if (running.current === own) setWork({ state: 'failed', title: problemText(error).title })
    } finally {
      if (running.current === own) running.current = null
    }
  }
  return { work, write, cancel }
}
