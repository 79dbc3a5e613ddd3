import { type Proof, proveFile, type ReadBack } from '@/codecs'
import { type FileFormat, toNumber } from '@/core/clock'
import { openFrames } from '../clip-frames'
import { reader } from '../clip-frames/reader'
import type { Encoded, EncodeJob } from './job'

/** So far may times be off, ms: WebM counts in thousandths, MP4 in parts of its own timescale. */
const TOLERANCE_MS: Partial<Record<FileFormat, number>> = { webm: 1.01, mp4: 0.1 }
const SAYS_REPEATS: readonly FileFormat[] = ['gif', 'apng', 'webp']
const SAYS_TIMES: readonly FileFormat[] = ['gif', 'apng', 'webp', 'mp4', 'webm']

/** Frames of the file as the browser's decoders show them. @throws ClipError where it cannot be read. */
async function readBack(encoded: Encoded, format: FileFormat, name: string): Promise<ReadBack> {
  const { bytes, type, ending, sheet } = encoded
  if (sheet) {
    const bitmap = await createImageBitmap(new Blob([sheet.picture], { type: 'image/png' }))
    const [{ width, height } = { width: 0, height: 0 }] = sheet.cells
    const read = reader(width, height)
    const frames = sheet.cells.map(
      ({ x, y }) =>
        () =>
          read((context) => context.drawImage(bitmap, -x, -y)),
    )
    return {
      ...{ width, height, delaysMs: null, playsForever: null },
      frames: (function* () {
        for (const frame of frames) yield frame()
        bitmap.close()
      })(),
    }
  }
  const opened = await openFrames([new File([bytes], `${name}${ending}`, { type })])
  const { width, height, plays } = opened
  const delaysMs: number[] = []
  return {
    ...{ width, height },
    delaysMs: SAYS_TIMES.includes(format) ? delaysMs : null,
    playsForever: SAYS_REPEATS.includes(format) ? plays === 0 : null,
    frames: (async function* () {
      for await (const { picture, delayMs } of opened.frames(width, height)) {
        delaysMs.push(delayMs)
        yield picture
      }
    })(),
  }
}

/** Reads a file back and holds it against the frames that were drawn for it. */
export async function prove(encoded: Encoded, format: FileFormat, job: EncodeJob): Promise<Proof> {
  const { width, height, timing, options, draw, progress } = job
  const lossy = format === 'mp4' || format === 'webm' || (format === 'webp' && !options.lossless)
  return proveFile(
    encoded.bytes.length,
    await readBack(encoded, format, job.name),
    {
      ...{ width, height, frames: timing.frames.length, frame: draw, transparent: options.transparent },
      delaysMs: SAYS_TIMES.includes(format) ? timing.delays.map((delay) => 1000 * toNumber(delay)) : null,
      toleranceMs: TOLERANCE_MS[format] ?? 0,
      pixels: lossy ? 'near' : 'exact',
    },
    progress,
  )
}
