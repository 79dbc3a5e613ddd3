import { type Remote, releaseProxy, wrap } from 'comlink'
import type { ExportService } from './export.worker'
import type { RenderService } from './render.worker'
import type { SeamService } from './seam.worker'

/** A worker with its typed service. */
export interface Client<T> {
  readonly service: Remote<T>
  /** Ends the worker, whatever it is doing. */
  readonly end: () => void
}

function client<T>(worker: Worker): Client<T> {
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

export const renderClient = () =>
  client<RenderService>(new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' }))
export const seamClient = () =>
  client<SeamService>(new Worker(new URL('./seam.worker.ts', import.meta.url), { type: 'module' }))
export const exportClient = () =>
  client<ExportService>(new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module' }))
