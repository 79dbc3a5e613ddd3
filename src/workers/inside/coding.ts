import type { GifCoder } from '@/codecs'
import { workerName } from '../shared/alive'
import { clientOf } from '../shared/client'
import { type Pool, poolOf } from '../shared/pool'
import type { CodeService } from './code.worker'
import { shareable } from './shared-frames'

const start = () => {
  const name = workerName()
  return clientOf<CodeService>(new Worker(new URL('./code.worker.ts', import.meta.url), { type: 'module', name }), name)
}

let pool: Pool<CodeService> | null = null

const workers = (): Pool<CodeService> => {
  pool ??= poolOf(start)
  return pool
}

/** Does each frame of a GIF on whichever core is free; the workers for it come with the first one. */
export const gifOnAllCores: GifCoder = {
  map: (picture, ...how) => {
    const shared = shareable(picture)
    return workers().run(async (service) => service.map(shared, ...how))
  },
  code: (frame) => workers().run(async (service) => service.code(frame)),
}
