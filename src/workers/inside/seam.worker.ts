import { checkMotions, isStill } from '@/core/closing'
import { changeLayer, type Loop, places, tooMuchToDraw } from '@/core/document'
import { type LoopRead, maskAlone, maskedBy, readAllStored } from '@/core/edit'
import { layerKind } from '@/core/layers'
import {
  describeFrame,
  isSeenToComeHome,
  type JudgedFrame,
  judgeDescribed,
  judgedSide,
  judgeLoop,
  type MaskEdge,
  maskEdge,
  type SeamReport,
  type Verdict,
  withJudgedClips,
} from '@/core/seam'
import { type FrameEdges, judgeTiles, MIN_TILE_PX } from '@/core/texture'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { paintedWhole } from '@/render/prepare'
import { serve } from '../shared/serve'
import { breathe } from '../shared/timing'

/** The worker listens between batches this long, ms. */
const BATCH_MS = 12

/** Frames are looked at as tiles no larger than this, px a side. */
const MAX_TILE_PX = 1920

/** Masks, and loops that are offered, are looked at no larger than this, px a side. */
const MAX_LOOK_PX = 960
/** Masks are looked at these shares of the loop. */
const MASKS_AT = [0, 1 / 3, 2 / 3]

/** A mask whose edge is seen. */
export interface SeenMask extends MaskEdge {
  readonly id: string
  readonly name: string
}

let cancelled = 0

/** Frames are drawn at this multiple of the judged size, and then reduced like those of any file. */
const FINER = 2

/** The size at which the frames of a loop are drawn to be judged. */
function drawnSize({ width, height, length }: Loop) {
  return scaledSize({ width, height }, Math.min(1, (FINER * judgedSide(length)) / Math.max(width, height)))
}

/**
 * The seam of a loop's pictures; null when it was cancelled in the meantime. Where nothing is seen to move in a loop in which something does,
 * it is drawn again at its own size: what is small is lost in small frames.
 * @throws RangeError where it is too much to draw
 */
async function seamOf(loop: Loop): Promise<SeamReport | null> {
  const problem = tooMuchToDraw(loop)
  if (problem) throw new RangeError(problem)
  const seam = await seamAt(loop, drawnSize(loop))
  const isLarge = Math.max(loop.width, loop.height) > FINER * judgedSide(loop.length)
  return seam?.verdict === 'still' && isLarge && !isStill(loop.layers) ? seamAt(loop, loop) : seam
}

/** The seam of frames of a loop that are drawn at a size; null when it was cancelled in the meantime. */
async function seamAt(
  loop: Loop,
  { width, height }: { readonly width: number; readonly height: number },
): Promise<SeamReport | null> {
  const before = cancelled
  const side = judgedSide(loop.length)
  const renderer = new BrowserRenderer(width, height, { forReading: true })
  const frames: JudgedFrame[] = []
  let batch = performance.now()
  for (let n = 0; n < loop.length; n++) {
    const picture = await paintedWhole(loop, n, (pictures) => renderer.picture(loop, n, pictures))
    frames.push(describeFrame(picture, side))
    if (performance.now() - batch > BATCH_MS) {
      await breathe()
      if (cancelled !== before) return null
      batch = performance.now()
    }
  }
  return judgeDescribed(frames)
}

const service = {
  /** Reads loops stored under some ids; variants as their sources are now. */
  read: (stored: readonly { readonly id: string; readonly raw: unknown }[]): LoopRead[] => readAllStored(stored),

  /** The seam of a loop's pictures, and its media as their own pictures are judged; null when it was cancelled in the meantime. */
  async judge(loop: Loop): Promise<{ readonly pictures: SeamReport; readonly media: Loop['media'] } | null> {
    const pictures = await seamOf(loop)
    return pictures && { pictures, media: (await withJudgedClips(loop, seamOf)).media }
  },

  /**
   * How frames of a loop meet themselves when they are laid beside each other: the worst of a few of them in each direction, with its number;
   * null where the frame is too small to tell. @throws RangeError where it is too much to draw
   */
  async tile(loop: Loop): Promise<FrameEdges | null> {
    const problem = tooMuchToDraw(loop)
    if (problem) throw new RangeError(problem)
    const { width, height } = scaledSize(loop, Math.min(1, MAX_TILE_PX / Math.max(loop.width, loop.height)))
    if (Math.min(width, height) < MIN_TILE_PX) return null
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    return judgeTiles(loop.length, async (n) => {
      await breathe()
      return paintedWhole(loop, n, (pictures) => renderer.picture(loop, n, pictures))
    })
  },

  /** The edges of painted masks, and in a cinemagraph of all masks, that are seen, or of one alone: the worst of a few frames. */
  async maskEdges(loop: Loop, only?: string): Promise<SeenMask[]> {
    if (tooMuchToDraw(loop)) return []
    const { width, height } = scaledSize(loop, Math.min(1, MAX_LOOK_PX / Math.max(loop.width, loop.height)))
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const draw = (of: Loop, frame: number) =>
      paintedWhole(of, frame, (pictures) => renderer.picture(of, frame, pictures))
    const found: SeenMask[] = []
    for (const { layer } of places(loop.layers)) {
      const holder = (only === undefined || only === layer.id) && maskedBy(loop, layer.id)
      const painted = Object.values(layerKind(layer.kind).properties).some(({ type }) => type === 'strokes')
      if (!holder || holder.hidden || !(painted || loop.kind === 'cinemagraph')) continue
      const without = changeLayer(loop, holder.id, (each) => ({ ...each, hidden: true }))
      const alone = maskAlone(loop, layer.id)
      let worst: MaskEdge | null = null
      for (const share of MASKS_AT) {
        const frame = Math.floor(share * loop.length)
        const edge = maskEdge(await draw(loop, frame), await draw(without, frame), await draw(alone, frame))
        if (edge && edge.share > (worst?.share ?? 0)) worst = edge
        await breathe()
      }
      if (worst) found.push({ ...worst, id: layer.id, name: layer.name })
    }
    return found
  },

  /** The verdict on a loop by its motions and its pictures, or why it is not judged, in words. */
  async verdict(loop: Loop): Promise<{ readonly verdict: Verdict } | { readonly problem: string }> {
    const problem = tooMuchToDraw(loop)
    if (problem) return { problem }
    const judged = await withJudgedClips(loop, seamOf)
    const { verdict } = judgeLoop(judged, checkMotions(loop), await seamOf(loop))
    return { verdict }
  },

  /** Whether a loop is seen to be home at its end; not where it is too much to draw. @throws MissingPicture */
  async comesHome(loop: Loop): Promise<boolean> {
    if (tooMuchToDraw(loop)) return false
    const { width, height } = scaledSize(loop, Math.min(1, MAX_LOOK_PX / Math.max(loop.width, loop.height)))
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    return isSeenToComeHome(loop, async (frame, look) => {
      await breathe()
      return paintedWhole(loop, frame, (pictures) => renderer.picture(loop, frame, pictures, look), look)
    })
  },

  /** Stops what is being judged. */
  cancel(): void {
    cancelled++
  },
}

export type SeamService = typeof service
serve(service)
