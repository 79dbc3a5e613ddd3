import { expose } from 'comlink'
import { type Loop, withFaces } from '@/core/document'
import { type Files, keepAtHand } from '@/core/media'
import { holdLife } from './alive'

export const isLoop = (value: unknown): value is Loop =>
  typeof value === 'object' && value !== null && 'layers' in value && 'loops' in value

/** A service each of whose methods first has what its loops need to be evaluated. */
function prepared<T extends object>(service: T): T {
  const methods = Object.entries(service).map(([name, method]) => [
    name,
    async (...args: unknown[]) => {
      for (const arg of args) if (isLoop(arg)) await withFaces(arg)
      return method.apply(service, args)
    },
  ])
  return Object.fromEntries(methods) as T
}

/** Questions that every service answers besides its own work. */
export interface TakesFiles {
  /** Takes files to hand that loops are drawn from. */
  takeFiles(files: Files): void
}

/** Last step of every worker: exposes its service and a sign of life. */
export function serve(service: object): void {
  expose({ ...prepared(service), takeFiles: keepAtHand } satisfies TakesFiles)
  holdLife()
}
