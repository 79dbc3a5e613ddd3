import { expose } from 'comlink'
import type { Loop } from '@/core/loop'
import { type Descriptor, descriptorOf, judgeDescribed, type SeamReport } from '@/core/seam'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { picturesOf } from '@/render/pictures'
import { breathe } from './timing'

/** Longest side of the frames that are judged, px. */
const JUDGED_SIZE = 96
/** Descriptors take 4 floats a pixel, over all scales a third more. The ceiling is 128 MB. */
const CEILING_FLOATS = 32 * 1024 * 1024
const LEAST_SIZE = 24
/** The worker listens between batches this long, ms. */
const BATCH_MS = 12

let cancelled = 0

/** The size at which a loop is judged: as large as the memory ceiling lets all its frames be. */
function judgedSize({ width, height, length }: Loop) {
  const within = (side: number) => scaledSize({ width, height }, Math.min(1, side / Math.max(width, height)))
  const affordable = Math.sqrt(CEILING_FLOATS / (length * 4 * 1.34))
  return within(Math.max(LEAST_SIZE, Math.min(JUDGED_SIZE, affordable)))
}

const service = {
  /** The seam of a loop's pictures; null when it was cancelled in the meantime. */
  async judge(loop: Loop): Promise<SeamReport | null> {
    const before = cancelled
    const { width, height } = judgedSize(loop)
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const pictures = await picturesOf(loop)
    const frames: Descriptor[] = []
    let batch = performance.now()
    for (let n = 0; n < loop.length; n++) {
      frames.push(descriptorOf(renderer.picture(loop, n, pictures)))
      if (performance.now() - batch > BATCH_MS) {
        await breathe()
        if (cancelled !== before) return null
        batch = performance.now()
      }
    }
    return judgeDescribed(frames)
  },

  /** Stops what is being judged. */
  cancel(): void {
    cancelled++
  },
}

export type SeamService = typeof service
expose(service)
