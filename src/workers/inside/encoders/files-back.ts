import type { ReadBack } from '@/codecs'
import type { FileFormat } from '@/core/clock'
import { openFrames } from '../clip-frames'

const SAYS_REPEATS: readonly FileFormat[] = ['gif', 'apng', 'webp', 'avif']
/** Formats that say how long each frame is shown. */
const SAYS_TIMES: readonly FileFormat[] = [...SAYS_REPEATS, 'mp4', 'webm']

/** Frames of files as the browser's decoders show them. @throws ClipError where they cannot be read. */
export async function filesBack(files: readonly File[], format: FileFormat): Promise<ReadBack> {
  const opened = await openFrames(files)
  const { width, height, plays } = opened
  const delaysMs: number[] = []
  return {
    width,
    height,
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
