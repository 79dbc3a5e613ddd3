import { ClipError } from '@/codecs/claims'
import {
  type ClipPlan,
  type FoundParts,
  type LaidOver,
  type Mend,
  mendedPlan,
  mixFrame,
  type PartsFinder,
  type PartsWanted,
  type PlanFrame,
  type Region,
  type Regions,
  type Steadied,
} from '@/core/footage'
import { type Picture, reducePicture } from '@/core/image'
import type { ClipReport, SeamReport } from '@/core/seam'
import { breathe } from '../shared/timing'
import { pictureOf } from './bitmap'
import { type FoundLoops, loopsIn, movingIn, type SearchBounds } from './clip-search'
import { heldClip, heldReport, learnedFor, reducedSource, smallSource } from './held-clip'

/** A clip with its mends: what is in it now, and what is found. */
export interface MendedClip {
  readonly plan: ClipPlan
  readonly report: ClipReport
  /** Results of steadying, one for each time. */
  readonly steadied: readonly Steadied[]
}
export interface ClipProgress {
  readonly done: number
  readonly of: number
}

let mending = 0
let searching = 0
let previewing = 0
let ways = 0

/** Loops are looked for in pictures that have been worked out no larger than this, px; parts in such. */
const SEARCHED = 64
const PARTS_SIDE = 160
/** A preview of a way has at most this many frames. */
const MAX_PREVIEW_FRAMES = 60

/** A way to mend a clip, seen small. */
export interface SeenWay {
  readonly length: number
  readonly ratio: number
  readonly verdict: SeamReport['verdict']
  readonly frames: readonly Picture[]
}

/** Frames in which the scene of a clip is searched, and their largest side, px. */
const SCENE = { frames: 3, side: 640 }

/** Indices spread evenly over `count` frames, at most as many as a preview has. */
const someOf = (count: number): number[] => {
  const shown = Math.min(count, MAX_PREVIEW_FRAMES)
  return Array.from({ length: shown }, (_, k) => Math.floor((k * count) / shown))
}

/** @throws ClipError when mending was stopped meanwhile */
async function still(job: number): Promise<void> {
  await breathe()
  if (job !== mending) throw new ClipError('It was cancelled.')
}

/** Abandons the mend in progress. */
export const stopMending = (): void => void mending++

/** The clip as it is searched, until another search is begun. */
async function search(mends: readonly Mend[]) {
  const of = heldClip()
  const plan = mendedPlan(of.shape, mends)
  const job = ++searching
  const pause = async () => {
    await breathe()
    if (job !== searching) throw new ClipError('Another search was begun.')
  }
  const learned = await learnedFor(plan, false, pause)
  const source = smallSource(of, learned, SEARCHED)
  const pictureOf = (n: number) => mixFrame(plan.frames[n] as PlanFrame, source)
  return { of, plan, learned, pictureOf, pause }
}

/** The mended clip, and what is seen of it. */
async function seenWith(
  mends: readonly Mend[],
  pause: (done: number, of: number) => Promise<void>,
): Promise<MendedClip> {
  const of = heldClip()
  const plan = mendedPlan(of.shape, mends)
  const learned = await learnedFor(plan, false, pause)
  const report = await heldReport(plan, of, learned, () => pause(1, 1))
  return { plan, report, steadied: learned.flatMap(({ steadied }) => steadied ?? []) }
}

let finding: { readonly of: object; readonly key: string; readonly finder: PartsFinder } | null = null
/**
 * The finder of regions in the mended clip; kept as long as the clip stays the same, so that another amount or length
 * is found quickly.
 */
async function partsFinder(mends: readonly Mend[], pause: () => Promise<void>): Promise<PartsFinder> {
  const of = heldClip()
  const key = JSON.stringify(mends)
  if (finding?.of === of && finding.key === key) return finding.finder
  const plan = mendedPlan(of.shape, mends)
  const source = reducedSource(of, await learnedFor(plan, false, pause), PARTS_SIDE)
  // Comes when regions are asked for first.
  const { PartsFinder } = await import('@/core/footage/regions/parts')
  const finder = new PartsFinder()
  for (const frame of plan.frames) {
    finder.add(mixFrame(frame, source))
    await pause()
  }
  finding = { of, key, finder }
  return finder
}

/** Questions that can be asked of the held clip and its mends. */
export const mendService = {
  /** The clip with mends: what is then in it, and what is found. @throws ClipError where it was cancelled, or cannot be mended so */
  async mended(mends: readonly Mend[], onProgress: (progress: ClipProgress) => void): Promise<MendedClip> {
    const job = ++mending
    return seenWith(mends, (done, of) => {
      onProgress({ done, of })
      return still(job)
    })
  },

  /** The same, for a preview, which gives way to the next one. @throws ClipError where it has */
  async previewed(mends: readonly Mend[]): Promise<MendedClip> {
    const job = ++previewing
    return seenWith(mends, async () => {
      await breathe()
      if (job !== previewing) throw new ClipError('Another preview was asked for.')
    })
  },

  /** A way to mend the clip, seen small: its verdict and its frames, which play. @throws ClipError where another list of ways was asked for */
  async way(list: number, mends: readonly Mend[], side: number): Promise<SeenWay> {
    const seen = await seenWith(mends, async () => {
      await breathe()
      if (list !== ways) throw new ClipError('Other ways were asked for.')
    })
    const of = heldClip()
    const source = reducedSource(of, await learnedFor(seen.plan, false), side)
    const frames: Picture[] = []
    for (const n of someOf(seen.plan.frames.length)) {
      frames.push(mixFrame(seen.plan.frames[n] as PlanFrame, source))
      await breathe()
      if (list !== ways) throw new ClipError('Other ways were asked for.')
    }
    const { ratio, verdict } = seen.report.seam
    return { length: seen.plan.frames.length, ratio, verdict, frames }
  },

  /** From now on ways are asked for with this number alone. */
  askWays(): number {
    return ++ways
  },

  /**
   * Regions with loops of their own in the mended clip.
   * @param onRough is told of them as they are found coarsely
   * @throws ClipError where other ways were asked for, RangeError where it has too few frames or too many
   */
  async parts(
    list: number,
    mends: readonly Mend[],
    wanted: PartsWanted,
    onRough?: (regions: Regions) => void,
  ): Promise<FoundParts> {
    const pause = async () => {
      await breathe()
      if (list !== ways) throw new ClipError('Other ways were asked for.')
    }
    return (await partsFinder(mends, pause)).find(wanted, pause, onRough)
  },

  /** Loops that lie in the mended clip, and the map of all. @throws ClipError when another question was asked meanwhile */
  async loops(mends: readonly Mend[], bounds: SearchBounds): Promise<FoundLoops> {
    const { of, plan, learned, pictureOf, pause } = await search(mends)
    return loopsIn(of, plan, bounds, pictureOf, (cropped) => heldReport(cropped, of, learned, pause), pause)
  },

  /** Where the mended clip lies over a still of the same view; null where that shows another scene. @throws ClipError where the still cannot be read */
  async overStill(mends: readonly Mend[], file: Blob): Promise<LaidOver | null> {
    const of = heldClip()
    const plan = mendedPlan(of.shape, mends)
    const still = await pictureOf(file)
    if (!still) throw new ClipError('The still of the loop cannot be read. Bring it in again.')
    const source = smallSource(of, await learnedFor(plan, false), SCENE.side)
    const frames = Array.from({ length: SCENE.frames }, (_, k) =>
      mixFrame(plan.frames[Math.floor(((k + 0.5) * plan.frames.length) / SCENE.frames)] as PlanFrame, source),
    )
    await breathe()
    // Comes when a scene is looked for first.
    const { laidOver } = await import('@/core/footage/steady/same-scene')
    return laidOver(reducePicture(still, SCENE.side), frames)
  },

  /** Where the mended clip moves. @throws ClipError when another question was asked meanwhile */
  async moving(mends: readonly Mend[]): Promise<Region> {
    const { of, plan, pictureOf, pause } = await search(mends)
    return movingIn(of, plan, pictureOf, pause)
  },
}
