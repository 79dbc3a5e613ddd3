import type { Loop } from '@/core/document'
import { backgroundIn, type FileSettings } from '@/core/output'

/** A file to be written. */
export interface FileJob {
  readonly loop: Loop
  readonly settings: FileSettings
  /** Of the files within an archive. */
  readonly name: string
}

/** Whether files can be written from the same frames: the same loop on the same ground, at the same size. */
export const sameFrames = (a: FileJob, b: FileJob): boolean =>
  a.loop === b.loop &&
  a.settings.scale === b.settings.scale &&
  backgroundIn(a.loop, a.settings) === backgroundIn(b.loop, b.settings)
