import type { FileFormat } from '@/core/clock'
import { apng } from './apng'
import type { Encoded, EncodeJob } from './job'
import { pngSequence, spriteSheet } from './pictures'
import { video } from './video'
import { webp } from './webp'

export type { EncodeJob, FileOptions } from './job'

/** An encoder for each format; GIF has a writer of its own. */
export const ENCODERS: Readonly<Record<Exclude<FileFormat, 'gif'>, (job: EncodeJob) => Promise<Encoded>>> = {
  apng,
  webp,
  mp4: (job) => video(job, 'mp4'),
  webm: (job) => video(job, 'webm'),
  'png-sequence': pngSequence,
  'sprite-sheet': spriteSheet,
}
