import { type Remote, releaseProxy, wrap } from 'comlink'
import type { Loop } from '@/core/document'
import { ALIVE } from './alive'

/** The background work ended by itself: an error in its script, or no memory left. It can be started anew. */
export class WorkerEnded extends Error {
  override readonly name = 'WorkerEnded'
}

/** The worker was ended on purpose before it had answered: nobody needs the answer any more. */
export class WorkerStopped extends Error {
  override readonly name = 'WorkerStopped'
}

/** A worker with its typed service. Whoever makes it ends it; what dies before is told by `broken`. */
export interface Client<T> {
  readonly service: Remote<T>
  /** A loop to be sent to the worker, without the data of media that it has had already. */
  readonly light: (loop: Loop) => Loop
  /** Rejects with a WorkerEnded when the worker itself breaks down, and with it all that it was doing. */
  readonly broken: Promise<never>
  /** What is asked of the service; rejects, too, when the worker breaks down meanwhile, and with a WorkerStopped when it is ended. */
  readonly ask: <R>(work: (service: Remote<T>) => Promise<R>) => Promise<R>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

/** @param name of the worker, by which it is noticed when it dies without a word; no two have the same */
export function clientOf<T>(worker: Worker, name?: string): Client<T> {
  const service = wrap<T>(worker)
  let ended = false
  const sent = new Set<string>()
  const waiting = new AbortController()
  const broken = new Promise<never>((_, reject) => {
    // One that was ended meant to end, whatever it was still loading.
    const fail = (message: string) => {
      if (!ended) reject(new WorkerEnded(message))
    }
    worker.onerror = ({ message }) => fail(message || 'The background work could not be started.')
    worker.addEventListener('message', ({ data }) => {
      if (data !== ALIVE || !name || ended) return
      navigator.locks
        .request(name, { signal: waiting.signal }, () => {
          fail('The background work ended without a word; the browser may have run out of memory.')
        })
        .catch(() => {
          // The client was ended before its worker: nothing to be told.
        })
    })
  })
  broken.catch(() => {})
  let stop = () => {}
  const stopped = new Promise<never>((_, reject) => {
    stop = () => reject(new WorkerStopped('The background work was ended.'))
  })
  stopped.catch(() => {})
  return {
    service,
    broken,
    ask: (work) => Promise.race([work(service), broken, stopped]),
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
      stop()
      waiting.abort()
      service[releaseProxy]()
      worker.terminate()
    },
  }
}

/** A service whose worker is started when it is first asked, and anew when it has died. */
export interface LastingService<T> {
  /** Rejects where the work fails, and with a WorkerEnded where its worker dies; the next one is then asked of a new worker. */
  readonly ask: <R>(work: (client: Client<T>) => Promise<R>) => Promise<R>
  readonly end: () => void
}

export function lastingService<T>(start: () => Client<T>): LastingService<T> {
  let client: Client<T> | null = null
  const letGo = (of: Client<T>) => {
    of.end()
    if (client === of) client = null
  }
  return {
    ask: async (work) => {
      client ??= start()
      const own = client
      try {
        return await own.ask(() => work(own))
      } catch (error) {
        if (error instanceof WorkerEnded) letGo(own)
        throw error
      }
    },
    end: () => {
      if (client) letGo(client)
    },
  }
}
