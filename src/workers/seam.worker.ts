import { expose } from 'comlink'
import type { Loop } from '@/core/loop'
import { type Described, describeFrame, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { picturesAt } from '@/render/pictures'
import { breathe } from './timing'

/** The worker listens between batches this long, ms. */
const BATCH_MS = 12

let cancelled = 0

/** The size at which a loop is judged. */
function judgedSize({ width, height, length }: Loop) {
  return scaledSize({ width, height }, Math.min(1, judgedSide(length) / Math.max(width, height)))
}

const service = {
  /** The seam of a loop's pictures; null when it was cancelled in the meantime. */
  async judge(loop: Loop): Promise<SeamReport | null> {
    const before = cancelled
    const { width, height } = judgedSize(loop)
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const frames: Described[] = []
    let batch = performance.now()
    for (let n = 0; n < loop.length; n++) {
      frames.push(describeFrame(renderer.picture(loop, n, await picturesAt(loop, n))))
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
