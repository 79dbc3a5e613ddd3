import { type Remote, releaseProxy, wrap } from 'comlink'

/** A worker with its typed service. */
export interface Client<T> {
  readonly service: Remote<T>
  /** Rejects when the worker itself breaks down, and with it all that it was doing. */
  readonly broken: Promise<never>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

export function clientOf<T>(worker: Worker): Client<T> {
  const service = wrap<T>(worker)
  let ended = false
  const broken = new Promise<never>((_, reject) => {
    worker.onerror = ({ message }) => reject(new Error(message || 'The background work could not be started.'))
  })
  broken.catch(() => {})
  return {
    service,
    broken,
    end: () => {
      if (ended) return
      ended = true
      service[releaseProxy]()
      worker.terminate()
    },
  }
}
