import type { Remote } from 'comlink'
import { type Client, WorkerEnded, WorkerStopped } from './client'

/** As many workers as there are cores, among which jobs are shared out. */
export interface Pool<T> {
  /**
   * Runs a job on the next worker that is free. Where the worker dies, the job is tried once more by another one.
   * @param signal gives the job up: at once where it waits, else as soon as its worker lets go of it
   * @throws what the job throws; WorkerEnded where its worker died twice, WorkerStopped where all were ended; the signal's reason
   * where it was given up
   */
  readonly run: <R>(job: (service: Remote<T>) => Promise<R>, signal?: AbortSignal) => Promise<R>
  /** Ends all workers and gives up all jobs. */
  readonly end: () => void
}

interface Waiting<T> {
  readonly start: (client: Client<T>) => Promise<void>
  readonly giveUp: (why: unknown) => void
}

/** A job whose worker dies is tried at most this often. */
const ATTEMPTS = 2

/** More workers than these are of no use: what they are given comes from one place. */
const MAX_WORKERS = 8
const cores = () => Math.min(MAX_WORKERS, Math.max(1, globalThis.navigator?.hardwareConcurrency ?? 1))

/** @param start makes a worker; it is called when a job waits and fewer than `most` are there */
export function poolOf<T>(start: () => Client<T>, most = cores()): Pool<T> {
  const free: Client<T>[] = []
  const all = new Set<Client<T>>()
  let waiting: Waiting<T>[] = []
  let ended = false

  const next = () => {
    while (waiting.length > 0) {
      const client = free.pop() ?? (all.size < most ? start() : null)
      if (!client) return
      all.add(client)
      void waiting.shift()?.start(client)
    }
  }
  const letGo = (client: Client<T>) => {
    client.end()
    all.delete(client)
  }

  const attempt = <R>(job: (service: Remote<T>) => Promise<R>, signal?: AbortSignal): Promise<R> =>
    new Promise<R>((resolve, reject) => {
      const giveUp = () => {
        waiting = waiting.filter((each) => each !== own)
        reject(signal?.reason)
      }
      const own: Waiting<T> = {
        giveUp: reject,
        start: async (client) => {
          try {
            resolve(await client.ask(job))
            if (!ended) free.push(client)
          } catch (error) {
            // A failed job leaves its worker intact; a dead worker is replaced.
            if (error instanceof WorkerEnded) letGo(client)
            else if (!ended) free.push(client)
            reject(error)
          } finally {
            signal?.removeEventListener('abort', giveUp)
            next()
          }
        },
      }
      if (signal?.aborted) return reject(signal.reason)
      if (ended) return reject(new WorkerStopped('The background work was ended.'))
      signal?.addEventListener('abort', giveUp, { once: true })
      waiting.push(own)
      next()
    })

  return {
    run: async (job, signal) => {
      for (let tries = 1; ; tries++) {
        try {
          return await attempt(job, signal)
        } catch (error) {
          if (!(error instanceof WorkerEnded) || tries >= ATTEMPTS || ended) throw error
        }
      }
    },
    end: () => {
      ended = true
      for (const client of all) client.end()
      all.clear()
      free.length = 0
      for (const { giveUp } of waiting) giveUp(new WorkerStopped('The background work was ended.'))
      waiting = []
    },
  }
}
