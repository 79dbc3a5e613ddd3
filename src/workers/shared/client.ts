import { type Remote, releaseProxy, wrap } from 'comlink'
import type { Loop } from '@/core/document'
import { assetsIn, type Files, filesOf } from '@/core/media'
import { ALIVE } from './alive'
import { isLoop, type TakesFiles } from './serve'

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
  /** Sends the worker the files of a loop that it has not had yet, as whoever gives a loop to its service need not do. */
  readonly send: (of: Pick<Loop, 'media'>) => Promise<void>
  /** Rejects with a WorkerEnded when the worker itself breaks down, and with it all that it was doing. */
  readonly broken: Promise<never>
  /** Calls the service. Rejects if the worker breaks down meanwhile, and with a WorkerStopped when it is ended. */
  readonly ask: <R>(work: (service: Remote<T>) => Promise<R>) => Promise<R>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

/** A service that is sent the files of each loop that it is given, once; what it is given comes after them. */
function sendingFiles<T>(raw: Remote<T>): {
  service: Remote<T>
  send: (of: Pick<Loop, 'media'>) => Promise<void>
} {
  const sent = new Set<string>()
  const send = async ({ media }: Pick<Loop, 'media'>) => {
    const wanted = media.length === 0 ? [] : assetsIn(media).filter(({ id }) => !sent.has(id))
    if (wanted.length === 0) return
    const files: Files = await filesOf(wanted)
    // A missing file may be there the next time.
    for (const id of files.keys()) sent.add(id)
    await (raw as unknown as Remote<TakesFiles>).takeFiles(files)
  }
  const call = (method: (...args: unknown[]) => unknown) => {
    return (...args: unknown[]) => {
      const loops = args.filter(isLoop).filter(({ media }) => media.length > 0)
      return loops.length === 0 ? method(...args) : Promise.all(loops.map(send)).then(() => method(...args))
    }
  }
  const service = new Proxy({} as object, {
    // Whoever waits for the service itself is given it.
    get: (_, name) =>
      name === 'then' ? undefined : call((raw as unknown as Record<PropertyKey, never>)[name] as never),
  })
  return { service: service as Remote<T>, send }
}

/** @param name of the worker, by which it is noticed when it dies without a word; no two have the same */
export function clientOf<T>(worker: Worker, name?: string): Client<T> {
  const raw = wrap<T>(worker)
  const { send, service } = sendingFiles(raw)
  let ended = false
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
    send,
    end: () => {
      if (ended) return
      ended = true
      stop()
      waiting.abort()
      raw[releaseProxy]()
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
