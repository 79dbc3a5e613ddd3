import { type Remote, releaseProxy, wrap } from 'comlink'

/** A worker with its typed service. */
export interface Client<T> {
  readonly service: Remote<T>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

export function clientOf<T>(worker: Worker): Client<T> {
  const service = wrap<T>(worker)
  let ended = false
  return {
    service,
    end: () => {
      if (ended) return
      ended = true
      service[releaseProxy]()
      worker.terminate()
    },
  }
}
