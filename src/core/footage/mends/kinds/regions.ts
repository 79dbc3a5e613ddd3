import { z } from 'zod'
import { modulo } from '../../../modulo'
import { smoothstep } from '../../../smoothstep'
import { median } from '../../../statistics'
import type { OwnLoop, Regions } from '../../regions/own-loop'
import { MAX_PATCHES } from '../../regions/patches'
import type { MendKind } from '../mend-kind'
import { mixPictures } from '../mixing'
import type { ClipPlan, Mixed } from '../plan'
import { frameNumber } from './values'

const map = z
  .object({
    across: z.int().min(1).max(1000),
    down: z.int().min(1).max(1000),
    labels: z.string().regex(/^[0-9a-z]*$/),
  })
  .refine(({ across, down, labels }) => labels.length === across * down)
const ownLoop = z.object({ start: frameNumber, period: z.int().min(1).max(1_000_000), overlap: z.int() })

/** Each region of the picture shows a loop of its own. */
export const regionsMend: MendKind<Regions> = {
  schema: z
    .object({
      kind: z.literal('parts'),
      length: z.int().min(2).max(100_000),
      map,
      loops: z.array(ownLoop).min(1).max(MAX_PATCHES),
    })
    .refine(({ map: { labels }, loops }) =>
      [...labels].every((sign) => Number.parseInt(sign, MAX_PATCHES) < loops.length),
    ),
  words: ({ loops, length }) => {
    const moving = loops.filter(({ period }) => period > 1).length
    return `${moving} region${moving === 1 ? '' : 's'}, each with its own loop, over ${length} frames`
  },
  apply: (plan, mend) => inRegions(plan, mend),
}

/**
 * Each region shows its own loop; all of them as far on as the first at each frame, so that what was filmed at one moment is shown at one where that can be. All delays
 * become the median.
 */
function inRegions(plan: ClipPlan, { length, map, loops }: Regions): ClipPlan {
  const count = plan.frames.length
  const fits = ({ start, period, overlap }: OwnLoop) =>
    start - Math.max(0, overlap) >= 0 && start + period - Math.min(0, overlap) <= count && Math.abs(overlap) <= period
  const [first] = loops
  if (!first || length < 2 || !loops.every(fits) || plan.frames.some((frame) => 'map' in frame)) return plan
  const at = (n: number) => plan.frames[n] as Mixed
  const shown = (n: number, { start, period, overlap }: OwnLoop): Mixed => {
    const ahead = first.start + n - start
    const i = modulo(ahead, period)
    const own = at(start + i)
    const K = Math.abs(overlap)
    const k = overlap > 0 ? i - (period - K) : i
    if (K === 0 || k < 0 || k >= K) return own
    const w = smoothstep((k + 1) / (K + 1))
    const other = at(start + i + (overlap > 0 ? -period : period))
    return mixPictures(own, other, overlap > 0 ? w : 1 - w, { keepVariance: true })
  }
  const delay = median(plan.delaysMs)
  return {
    ...plan,
    frames: Array.from({ length }, (_, n) => ({ map, pieces: loops.map((loop) => shown(n, loop)) })),
    delaysMs: Array.from({ length }, () => delay),
    before: [],
    after: [],
  }
}
