import { toast } from 'sonner'
import { clearQueue, startQueue } from '@/store/queue'

/** Has the queue write what waits; what keeps it from that is said. */
export const runQueue = (): void => void startQueue().catch((error: Error) => toast.error(error.message))

/** Takes files out of the queue: one, or all that are shown; what keeps it from that is said. */
export const emptyQueue = (id?: string): void =>
  void clearQueue(id).catch((error: Error) => toast.error(`The queue could not be changed: ${error.message}`))
