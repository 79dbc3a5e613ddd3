import { toNumber } from '@/core/clock'
import { writeGif } from '../gif-write'
import type { Encoded, EncodeJob } from './job'

/** @throws RangeError for a delay that viewers would replace. */
export async function gif(job: EncodeJob): Promise<Encoded> {
  const { width, height, timing, settings, transparent, draw, mostKept, progress, tools } = job
  const { bytes, ownPalettes } = await writeGif({
    width,
    height,
    mostKept,
    progress,
    draw: (n: number) => draw(n),
    delaysCs: timing.delays.map((delay) => Math.round(100 * toNumber(delay))),
    colours: { ...settings, transparent },
    ...(tools.gif ? { coder: tools.gif } : {}),
  })
  const note =
    ownPalettes === 0
      ? 'One palette serves all frames.'
      : `${ownPalettes} of ${timing.frames.length} frames have a palette of their own.`
  return { bytes, type: 'image/gif', note }
}
