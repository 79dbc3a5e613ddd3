import type { ClipService } from '../inside/clip.worker'
import type { ExportService } from '../inside/export.worker'
import type { HealService } from '../inside/heal.worker'
import type { ImportService } from '../inside/import.worker'
import type { SeamService } from '../inside/seam.worker'
import { workerName } from '../shared/alive'
import { clientOf } from '../shared/client'

export type { Client } from '../shared/client'
export { lastingService, WorkerEnded, WorkerStopped } from '../shared/client'
export { renderClient } from '../shared/render-client'

export const seamClient = () => {
  const name = workerName()
  return clientOf<SeamService>(
    new Worker(new URL('../inside/seam.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const exportClient = () => {
  const name = workerName()
  return clientOf<ExportService>(
    new Worker(new URL('../inside/export.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const clipClient = () => {
  const name = workerName()
  return clientOf<ClipService>(
    new Worker(new URL('../inside/clip.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const importClient = () => {
  const name = workerName()
  return clientOf<ImportService>(
    new Worker(new URL('../inside/import.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const healClient = () => {
  const name = workerName()
  return clientOf<HealService>(
    new Worker(new URL('../inside/heal.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
