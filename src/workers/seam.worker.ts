import { expose } from 'comlink'
import { reducePicture } from '@/core/image'
import { type Loop, tooMuchToDraw } from '@/core/loop'
import { type Described, describeFrame, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { allPicturesAt } from '@/render/pictures'
import { holdLife } from './alive'
import { breathe } from './timing'

/** The worker listens between batches this long, ms. */
const BATCH_MS = 12

let cancelled = 0

/** Frames are drawn so many times as large as they are judged, and then reduced as those of any file are. */
const FINER = 2

/** The size at which the frames of a loop are drawn to be judged. */
function drawnSize({ width, height, length }: Loop) {
  return scaledSize({ width, height }, Math.min(1, (FINER * judgedSide(length)) / Math.max(width, height)))
}

const service = {
  /** The seam of a loop's pictures; null when it was cancelled in the meantime. */
  async judge(loop: Loop): Promise<SeamReport | null> {
    const problem = tooMuchToDraw(loop)
    if (problem) throw new RangeError(problem)
    const before = cancelled
    const { width, height } = drawnSize(loop)
    const side = judgedSide(loop.length)
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const frames: Described[] = []
    let batch = performance.now()
    for (let n = 0; n < loop.length; n++) {
      frames.push(describeFrame(reducePicture(renderer.picture(loop, n, await allPicturesAt(loop, n)), side)))
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
holdLife()
