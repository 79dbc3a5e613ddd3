import type { RenderService } from '../inside/render.worker'
import { workerName } from './alive'
import { clientOf } from './client'

/** Apart from the other clients, since a worker that exports has one of its own. */
export const renderClient = () => {
  const name = workerName()
  return clientOf<RenderService>(
    new Worker(new URL('../inside/render.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
