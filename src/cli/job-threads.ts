import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { wrap } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import { CommandError } from './command-error'
import type { JobService } from './job'
import type { Rendered, RenderOptions } from './render'

/** The script of a thread: beside the bundle, or where the bundle would be. */
const SCRIPT = ['job.cjs', '../../dist/job.cjs']
  .map((path) => join(import.meta.dirname, path))
  .find((path) => existsSync(path))

/** Threads that write whole files beside each other. */
export interface JobThreads {
  /** Writes a file when a thread is free; says why where it cannot be written, also where its thread breaks down. */
  readonly render: (path: string, options: RenderOptions) => Promise<Rendered | { readonly problem: string }>
  readonly end: () => Promise<void>
}

interface Thread {
  readonly worker: Worker
  readonly service: ReturnType<typeof wrap<JobService>>
  /** Resolves with why it ended. */
  readonly broken: Promise<{ readonly problem: string }>
}

function started(): Thread {
  if (!SCRIPT) throw new CommandError('The command line has not been built: run `npm run build:cli` first.')
  const worker = new Worker(SCRIPT)
  const broken = new Promise<{ readonly problem: string }>((resolve) => {
    worker.once('error', (error) => resolve({ problem: `The thread that wrote it broke down: ${error.message}` }))
    worker.once('exit', () => resolve({ problem: 'The thread that wrote it ended by itself.' }))
  })
  return { worker, service: wrap<JobService>(nodeEndpoint(worker)), broken }
}

/** A pool of threads, each started when it is first needed, and again if it has died. */
export function jobThreads(most: number): JobThreads {
  const free: Thread[] = []
  const waiting: ((thread: Thread) => void)[] = []
  const all = new Set<Thread>()
  const take = (): Promise<Thread> => {
    const ready = free.pop()
    if (ready) return Promise.resolve(ready)
    if (all.size < most) {
      const thread = started()
      all.add(thread)
      return Promise.resolve(thread)
    }
    return new Promise((resolve) => waiting.push(resolve))
  }
  const give = (thread: Thread) => {
    const next = waiting.shift()
    if (next) next(thread)
    else free.push(thread)
  }
  return {
    async render(path, options) {
      let thread = await take()
      const failed = (error: unknown) => ({ problem: error instanceof Error ? error.message : String(error) })
      let gone = false
      const ended = thread.broken.then((problem) => {
        gone = true
        return problem
      })
      const result = await Promise.race([thread.service.render(path, options).catch(failed), ended])
      if (gone) {
        all.delete(thread)
        thread = started()
        all.add(thread)
      }
      give(thread)
      return result
    },
    end: async () => {
      await Promise.all([...all].map(({ worker }) => worker.terminate()))
    },
  }
}
