import { type Proof, promiseOf, proveFile } from '@/codecs'
import type { EncodeJob } from '@/codecs/write'
import { toNumber } from '@/core/clock'
import type { Picture } from '@/core/image'
import { inexpressible, type VectorFormat } from '@/core/output'
import { describeFrame, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'
import { scaledSize } from '@/render/browser'
import { reader } from '../clip-frames/reader'
import type { VectorViewer } from './vector-viewer'
import type { DrawAt } from './weigh'

/** About this many moments of a vector file are looked at: each is drawn by the page itself. */
const MOMENTS = 44
/** Frames on both sides of the seam that are always among them, the closing one too. */
const BESIDE_SEAM = 2

/** Moments of a loop of N frames that are looked at: spread over it, and those about the seam; N is the closing frame. */
function momentsOf(length: number): number[] {
  const count = Math.min(MOMENTS, length)
  const spread = Array.from({ length: count }, (_, i) => Math.round((i * length) / count))
  const beside = Array.from({ length: 2 * BESIDE_SEAM + 1 }, (_, i) =>
    i < BESIDE_SEAM ? length - BESIDE_SEAM + i : i - BESIDE_SEAM,
  )
  const inside = [...spread, ...beside].filter((n) => n >= 0 && n < length)
  return [...new Set(inside)].sort((a, b) => a - b).concat(length)
}

/** The seam of all frames of a loop, drawn small: moments of a file alone do not tell how it goes on from one frame to the next. */
async function seamOf(
  job: Pick<EncodeJob, 'loop'>,
  draw: DrawAt,
  progress: () => void | Promise<void>,
): Promise<SeamReport> {
  const { loop } = job
  const side = judgedSide(loop.length)
  const { width, height } = scaledSize(loop, Math.min(1, (2 * side) / Math.max(loop.width, loop.height)))
  const frames = []
  for (let n = 0; n < loop.length; n++) {
    frames.push(describeFrame(await draw(loop, n, width, height), side))
    await progress()
  }
  return judgeDescribed(frames)
}

/**
 * Reads a vector file back: the browser, or a player of Lottie, draws it at moments spread over the loop and about its seam, which are held
 * against the frames there.
 * @param frame draws a frame of the loop on its ground, at the size of the file
 * @param draw draws one at any size
 */
export async function proveVector(
  bytes: Uint8Array,
  job: Pick<EncodeJob, 'loop' | 'settings' | 'timing' | 'width' | 'height' | 'transparent'>,
  viewer: VectorViewer,
  frame: (n: number) => Promise<Picture>,
  draw: DrawAt,
  progress: (share: number) => void | Promise<void>,
): Promise<Proof> {
  const { loop, width, height } = job
  const format = job.settings.format as VectorFormat
  const shown = await viewer.open(new TextDecoder().decode(bytes), format)
  const moments = momentsOf(loop.length)
  const seconds = (loop.length * loop.rate.den) / loop.rate.num
  const read = reader(width, height)
  try {
    const seam = await seamOf(job, draw, () => progress(0))
    const proof = await proveFile(
      bytes.length,
      {
        width: Math.round(shown.width),
        height: Math.round(shown.height),
        playsForever: null,
        delaysMs: null,
        frames: (async function* () {
          for (const n of moments) {
            const bitmap = await viewer.at(n / toNumber(loop.rate) + 1e-5, width, height)
            const picture = read((context) => context.drawImage(bitmap, 0, 0))
            bitmap.close()
            yield picture
          }
        })(),
      },
      promiseOf(job, {
        // The closing frame is to show what frame 0 shows.
        frame: (n) => frame((moments[n] as number) % loop.length),
        moments: moments.length,
        // Where something was named beforehand as left out, spots are off by that.
        isWhole: inexpressible(loop, format).length === 0,
      }),
      (n) => progress(n / moments.length),
      undefined,
      seam,
    )
    const found = shown.seconds
    // A still picture has no duration, and needs none.
    const time = {
      what: 'time of one loop',
      expected: `${seconds.toFixed(2)} s`,
      found: found === 0 ? 'still' : `${found.toFixed(2)} s`,
      holds: found === 0 ? proof.seam.verdict === 'still' : Math.abs(found - seconds) < 1e-4,
    }
    const lines = [
      ...proof.lines.map((line) => (line.what === 'frames' ? { ...line, what: 'moments looked at' } : line)),
      time,
    ]
    return { ...proof, lines, holds: lines.every(({ holds }) => holds) }
  } finally {
    await viewer.close()
  }
}
