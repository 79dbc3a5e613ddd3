import { avifOf, type Encoded, type EncodeJob, WRITERS } from '@/codecs/write'
import type { FileFormat } from '@/core/clock'
import type { VideoJob } from './video'

/** Comes when the first video is written. */
const video: typeof import('./video').video = async (...args) => (await import('./video')).video(...args)

/** The AV1 encoder of the browser writes the pictures of an AVIF too. */
async function avif(job: EncodeJob): Promise<Encoded> {
  const { bytes } = await video({ ...job, settings: { ...job.settings, codec: 'av1' } }, 'mp4', true)
  return { bytes: avifOf(bytes), type: 'image/avif' }
}

/** An encoder for each format. */
export const ENCODERS: Readonly<Record<FileFormat, (job: VideoJob) => Promise<Encoded>>> = {
  ...WRITERS,
  avif,
  mp4: (job) => video(job, 'mp4'),
  webm: (job) => video(job, 'webm'),
}
