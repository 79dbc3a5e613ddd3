import { newId } from '@/core/id'

/** Message of a worker once it holds the lock of its name. */
export const ALIVE = 'cyclon-worker-alive'

/** A name that no other worker has; locks may not be called by one that begins with a hyphen, as ids may. */
export const workerName = (): string => `cyclon worker ${newId()}`

/**
 * Called once by every worker: it holds a lock of its own name for as long as it lives. A worker that runs out of memory, or is ended by the
 * browser, says nothing any more; its lock is then free, which its client waits for.
 */
export function holdLife(): void {
  if (!self.name || !navigator.locks) return
  void navigator.locks.request(self.name, () => {
    self.postMessage(ALIVE)
    return new Promise(() => {})
  })
}
