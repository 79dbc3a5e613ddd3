import { proxy, transfer } from 'comlink'
import { backgroundIn } from '@/core/output'
import { scaledSize } from '@/render/browser'
import type { VectorViewer } from '../inside/encoders/vector-viewer'
import type { ExportedFile, ExportProgress, ExportService } from '../inside/export.worker'
import { type Client, exportClient, renderClient } from './clients'
import type { FileJob } from './file-job'
import { vectorViewer } from './read-vector'

/** Frames that are kept while several files are written from them, bytes. */
const SHARED_BYTES = 192 * 1024 * 1024

/** Files that are being written together. */
export interface Writing {
  /** One for each job, in their order; it rejects where the file cannot be written. */
  readonly files: readonly Promise<ExportedFile>[]
  readonly pause: () => void
  readonly resume: () => void
  /** Ends all work at once; nothing is left of it. */
  readonly cancel: () => void
}

/**
 * Writes files from the same frames, at the same time: one worker draws each frame once, and one worker for each file writes
 * and proves it.
 * @param tell is told how far each job is, by its place
 */
export function writeTogether(
  jobs: readonly FileJob[],
  tell: (job: number, progress: ExportProgress) => void,
): Writing {
  const [first] = jobs
  if (!first) return { files: [], pause: () => {}, resume: () => {}, cancel: () => {} }
  const drawing = renderClient()
  const writers = new Set<Client<ExportService>>()
  const channels = jobs.map(() => new MessageChannel())
  const viewers = jobs.map(vectorViewer)
  const loop = { ...first.loop, background: backgroundIn(first.loop, first.settings) }
  const { width, height } = scaledSize(loop, first.settings.scale)
  const ports = channels.map(({ port1 }) => port1)
  const ready = Promise.race([
    drawing.service.lanes(loop, width, height, SHARED_BYTES, transfer(ports, ports)),
    drawing.broken,
  ])
  ready.catch(() => {})
  const files = jobs.map(async (job, i): Promise<ExportedFile> => {
    const writer = exportClient()
    const viewer = viewers[i] as VectorViewer
    writers.add(writer)
    try {
      const port = (channels[i] as MessageChannel).port2
      await ready
      return await Promise.race([
        writer.service.file(
          job.loop,
          job.settings,
          job.name,
          transfer(port, [port]),
          proxy(viewer),
          proxy((progress: ExportProgress) => tell(i, progress)),
        ),
        ...[writer.broken, drawing.broken],
      ])
    } finally {
      // A writer that has died could not say so itself.
      drawing.service.leave(i).catch(() => {})
      void viewer.close()
      writers.delete(writer)
      writer.end()
    }
  })
  const end = () => {
    for (const writer of writers) writer.end()
    for (const viewer of viewers) void viewer.close()
    drawing.end()
  }
  void Promise.allSettled(files).then(end)
  return {
    files,
    pause: () => {
      for (const writer of writers) void writer.service.pause()
    },
    resume: () => {
      for (const writer of writers) void writer.service.resume()
    },
    cancel: end,
  }
}
