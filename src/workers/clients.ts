import { clientOf } from './client'
import type { ClipService } from './clip.worker'
import type { ExportService } from './export.worker'
import type { SeamService } from './seam.worker'

export type { Client } from './client'
export { renderClient } from './render-client'

export const seamClient = () =>
  clientOf<SeamService>(new Worker(new URL('./seam.worker.ts', import.meta.url), { type: 'module' }))
export const exportClient = () =>
  clientOf<ExportService>(new Worker(new URL('./export.worker.ts', import.meta.url), { type: 'module' }))
export const clipClient = () =>
  clientOf<ClipService>(new Worker(new URL('./clip.worker.ts', import.meta.url), { type: 'module' }))
