import { toast } from 'sonner'
import { startQueue } from '@/store/queue'

/** Has the queue write what waits; what keeps it from that is said. */
export const runQueue = (): void => void startQueue().catch((error: Error) => toast.error(error.message))
