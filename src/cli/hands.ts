import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { wrap } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import type { Inspect } from '@/codecs/proof'
import type { Tools } from '@/codecs/write'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { assetsIn, filesOf } from '@/core/media'
import { type Client, WorkerEnded, WorkerStopped } from '../workers/shared/client'
import { type Pool, poolOf } from '../workers/shared/pool'
import type { HandService } from './hand'

/** The script of a thread: beside the bundle, or where the bundle would be. */
const SCRIPT = ['hand.cjs', '../../dist/hand.cjs']
  .map((path) => join(import.meta.dirname, path))
  .find((path) => existsSync(path))

/** Loops of fewer frames than this are done before threads have started. */
const WORTH_IT = 12
/** Frames that are being drawn while one is written, for each thread. */
const AHEAD = 3

/** Work that is done frame by frame, on all cores. */
export interface FrameThreads {
  readonly draw: (frame: number) => Promise<Picture>
  readonly tools: Pick<Tools, 'png' | 'gif'>
  readonly inspect: Inspect
  /** Frames that should be asked for at a time. */
  readonly ahead: number
  readonly end: () => Promise<void>
}

/** A thread that knows what it will draw. */
function threadOf(
  script: string,
  loop: Loop,
  width: number,
  height: number,
): Client<HandService> & { ended: Promise<unknown> } {
  const worker = new Worker(script)
  const service = wrap<HandService>(nodeEndpoint(worker))
  let stop = () => {}
  const broken = new Promise<never>((_, reject) => {
    worker.on('error', (error) => reject(new WorkerEnded(error.message)))
    worker.on('exit', () => reject(new WorkerEnded('A thread of the command line ended by itself.')))
  })
  const stopped = new Promise<never>((_, reject) => {
    stop = () => reject(new WorkerStopped('The thread was ended.'))
  })
  broken.catch(() => {})
  stopped.catch(() => {})
  const ready = filesOf(assetsIn(loop.media)).then((files) => service.know(loop, files, width, height))
  ready.catch(() => {})
  return {
    service,
    broken,
    send: async () => {},
    ask: (work) => Promise.race([ready.then(() => work(service)), broken, stopped]),
    end: () => {
      stop()
      void worker.terminate()
    },
    ended: new Promise((resolve) => worker.on('exit', resolve)),
  }
}

/**
 * Threads for a loop that is drawn at a size; null where one does as well.
 * @param cores at the most; all that there are where it is left out
 */
export function handsFor(
  loop: Loop,
  { width, height }: { readonly width: number; readonly height: number },
  frames: number,
  cores = availableParallelism(),
): FrameThreads | null {
  if (cores < 2 || frames < WORTH_IT || SCRIPT === undefined) return null
  const script = SCRIPT
  const threads: { ended: Promise<unknown> }[] = []
  const pool: Pool<HandService> = poolOf(() => {
    const thread = threadOf(script, loop, width, height)
    threads.push(thread)
    return thread
  }, cores)
  return {
    draw: (frame) => pool.run((service) => service.draw(frame)),
    tools: {
      png: (picture, how) => pool.run((service) => service.png(picture, how)),
      gif: {
        map: (...picture) => pool.run((service) => service.map(...picture)),
        code: (frame) => pool.run((service) => service.code(frame)),
      },
    },
    inspect: (...frame) => pool.run((service) => service.inspect(...frame)),
    ahead: AHEAD * cores,
    end: async () => {
      pool.end()
      await Promise.all(threads.map(({ ended }) => ended))
    },
  }
}
