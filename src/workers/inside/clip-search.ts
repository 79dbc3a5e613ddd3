import {
  applyMend,
  type ClipCut,
  type ClipPlan,
  type ClipShape,
  type CutMap,
  clipPeriod,
  cutCosts,
  cutMap,
  Distances,
  findCuts,
  type Glimpse,
  glimpseOf,
  movingRegion,
  type Region,
  refined,
  shareOf,
} from '@/core/footage'
import { type Picture, reducePicture } from '@/core/image'
import type { ClipReport, SeamReport } from '@/core/seam'

/** Bounds of the loops that are looked for, in frames of the clip as it is mended. */
export interface SearchBounds {
  readonly least: number
  readonly most: number
  /** The first frame that may be in them, and the last. */
  readonly from: number
  readonly to: number
  readonly holds: number | null
}

/** A loop in the clip, and what is seen of its seam. */
interface FoundLoop extends ClipCut {
  readonly ratio: number
  readonly verdict: SeamReport['verdict']
  /** The share of the picture that moves. */
  readonly moving: number
}

export interface FoundLoops {
  readonly period: number | null
  readonly cuts: readonly FoundLoop[]
  readonly map: CutMap
}

/** Number of loops listed, and of cells in the map. */
const LISTED = 8
const CELLS = { across: 150, down: 48 }

/** The side of the pictures by which it is told how much moves, px: of 6,000 frames some 25 MB. */
const SMALL = 32

interface Known {
  readonly key: string
  readonly distances: Distances
  readonly small: readonly Picture[]
}

/** Results for each clip with its latest mends; they live as long as the clip. */
const known = new WeakMap<object, Known>()

/**
 * Results for the frames of a clip with its mends.
 * @param of the clip; the results are kept for its next question
 * @param pictureOf gives a frame of the plan
 * @param pause is awaited now and then; may throw to stop
 */
async function lookedAt(
  of: object,
  plan: ClipPlan,
  pictureOf: (n: number) => Picture,
  pause: () => Promise<void>,
): Promise<Known> {
  const key = JSON.stringify([plan.frames, plan.edits])
  const before = known.get(of)
  if (before?.key === key) return before
  const glimpses: Glimpse[] = []
  const small: Picture[] = []
  for (const n of plan.frames.keys()) {
    const picture = pictureOf(n)
    glimpses.push(glimpseOf(picture))
    small.push(reducePicture(picture, SMALL))
    if (n % 16 === 15) await pause()
  }
  const found = { key, distances: new Distances(glimpses), small }
  known.set(of, found)
  return found
}

/** Where a clip with its mends moves. */
export const movingIn = async (...clip: Parameters<typeof lookedAt>): Promise<Region> =>
  movingRegion((await lookedAt(...clip)).small)

/** Loops that lie in a clip with its mends. */
export async function loopsIn(
  of: { readonly shape: ClipShape },
  plan: ClipPlan,
  { least, most, from, to, holds }: SearchBounds,
  pictureOf: (n: number) => Picture,
  report: (plan: ClipPlan) => Promise<ClipReport>,
  pause: () => Promise<void>,
): Promise<FoundLoops> {
  const { distances, small } = await lookedAt(of, plan, pictureOf, pause)
  const period = clipPeriod(distances)
  const costs = cutCosts(distances, { least, most, from, to: to + 1 })
  const cuts = await refined(findCuts(costs, LISTED, holds, period), async ({ start, length }) => {
    await pause()
    const cropped = applyMend(plan, { kind: 'crop', from: start, to: start + length - 1 }, of.shape)
    const { ratio, verdict } = (await report(cropped)).seam
    return { ratio, verdict, moving: shareOf(movingRegion(small.slice(start, start + length))) }
  })
  return { period, cuts, map: cutMap(costs, CELLS) }
}
