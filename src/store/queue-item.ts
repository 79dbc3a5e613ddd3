import type { FileSettings } from '@/core/output'
import type { ExportedFile, ExportProgress } from '@/workers/inside/export.worker'

/** Result of writing a file, with its proof. */
export interface QueueResult extends Omit<ExportedFile, 'bytes'> {
  readonly size: number
  readonly seconds: number
}

/** A file of the run. */
export interface QueueItem {
  readonly id: string
  /** Names the loop as it was when it was put in. */
  readonly loopKey: string
  readonly loopName: string
  readonly settings: FileSettings
  /** Without its ending. */
  readonly name: string
  readonly state: 'waiting' | 'writing' | 'done' | 'failed'
  readonly progress: ExportProgress | null
  /** Why it could not be written, or which of its promises it does not keep. */
  readonly problem: string | null
  readonly result: QueueResult | null
}
