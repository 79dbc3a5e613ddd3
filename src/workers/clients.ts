import { workerName } from './alive'
import { clientOf } from './client'
import type { ClipService } from './clip.worker'
import type { ExportService } from './export.worker'
import type { HealService } from './heal.worker'
import type { ImportService } from './import.worker'
import type { SeamService } from './seam.worker'

export type { Client } from './client'
export { lastingService, WorkerEnded, WorkerStopped } from './client'
export { renderClient } from './render-client'

export const seamClient = () => {
  const name = workerName()
  return clientOf<SeamService>(new Worker(new URL('./seam.worker.ts', import.meta.url), { type: 'module', name }), name)
}
export const exportClient = () => {
  const name = workerName()
  return clientOf<ExportService>(
    new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const clipClient = () => {
  const name = workerName()
  return clientOf<ClipService>(new Worker(new URL('./clip.worker.ts', import.meta.url), { type: 'module', name }), name)
}
export const importClient = () => {
  const name = workerName()
  return clientOf<ImportService>(
    new Worker(new URL('./import.worker.ts', import.meta.url), { type: 'module', name }),
    name,
  )
}
export const healClient = () => {
  const name = workerName()
  return clientOf<HealService>(new Worker(new URL('./heal.worker.ts', import.meta.url), { type: 'module', name }), name)
}
