import { parentPort } from 'node:worker_threads'
import { expose } from 'comlink'
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs'
import sharp from 'sharp'
import type { Loop } from '@/core/document'
import { type Rendered, type RenderOptions, renderLoop } from './render'
import { readLoopAt } from './write'

/** Work of one of several threads that write files, each a whole file by itself. */
let last: { readonly path: string; readonly loop: Loop } | null = null

const service = {
  /** Writes a file, proven; or says why not. */
  async render(path: string, options: RenderOptions): Promise<Rendered | { readonly problem: string }> {
    try {
      if (last?.path !== path) last = { path, loop: await readLoopAt(path) }
      return await renderLoop(last.loop, path, options)
    } catch (error) {
      return { problem: (error as Error).message }
    }
  },
}
export type JobService = typeof service

if (parentPort) {
  // Every thread has a core to itself.
  sharp.concurrency(1)
  expose(service, nodeEndpoint(parentPort as never))
}
