import { type Remote, releaseProxy, wrap } from 'comlink'
import type { Loop } from '@/core/loop'

/** A worker with its typed service. */
export interface Client<T> {
  readonly service: Remote<T>
  /** A loop to be sent to the worker, without the data of media that it has had already. */
  readonly light: (loop: Loop) => Loop
  /** Rejects when the worker itself breaks down, and with it all that it was doing. */
  readonly broken: Promise<never>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

export function clientOf<T>(worker: Worker): Client<T> {
  const service = wrap<T>(worker)
  let ended = false
  const sent = new Set<string>()
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = ({ message }) => reject(new Error(message || 'The background work could not be started.'))
  })
  broken.catch(() => {})
  return {
    service,
    broken,
    light: (loop) => {
      if (loop.pictures.length === 0 && loop.clips.length === 0) return loop
      const pictures = loop.pictures.map((each) => (sent.has(each.id) ? { ...each, data: '' } : each))
      const clips = loop.clips.map((each) => (sent.has(each.id) ? { ...each, frames: [] } : each))
      // What came without its data has not been sent.
      for (const { id, data } of loop.pictures) if (data) sent.add(id)
      for (const { id, frames } of loop.clips) if (frames[0]) sent.add(id)
      return { ...loop, pictures, clips }
    },
    end: () => {
      if (ended) return
      ended = true
      service[releaseProxy]()
      worker.terminate()
    },
  }
}
