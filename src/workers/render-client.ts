import { workerName } from './alive'
import { clientOf } from './client'
import type { RenderService } from './render.worker'

/** Apart from the other clients, since a worker that exports has one of its own. */
export const renderClient = () => {
  const name = workerName()
  return clientOf<RenderService>(
    new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
