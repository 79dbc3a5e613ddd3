import { ClipError } from '@/codecs/claims'
import {
  type ClipCut,
  clipPeriod,
  cutCosts,
  Distances,
  type Found,
  findCuts,
  type Glimpse,
  glimpseOf,
  refined,
} from '@/core/footage'
import { describeFrame, type JudgedFrame, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'
import { reasonOf } from './check'
import { type Source, sourcesAt } from './sources'
import { isVideo, videoSource } from './video'

/** Which loops are wanted; null for what follows from the clip. */
export interface FindOptions {
  readonly min: number | null
  readonly max: number | null
  readonly from: number | null
  readonly to: number | null
  readonly top: number
}

/** A loop in a clip, with what is seen of its seam. */
interface FoundCut extends ClipCut {
  readonly ratio: number
  readonly verdict: SeamReport['verdict']
  /** How long it is shown by the delays of the clip, s. */
  readonly seconds: number
}

export type FindEntry =
  | {
      readonly file: string
      readonly frames: number
      /** Frames a second. */
      readonly rate: number
      readonly period: number | null
      readonly cuts: readonly FoundCut[]
    }
  | { readonly file: string; readonly error: string }

const PICTURES_ONLY = 1
/** Loops of less than this are not looked for unless they are asked for, s. */
const MIN_LOOP_SECONDS = 0.4

/**
 * Moving pictures at a path.
 * @throws ClipError, or an error of the file system
 */
export const clipsAt = async (path: string, rate: number): Promise<Source[]> =>
  isVideo(path) ? [videoSource(path)] : sourcesAt(path, rate)

/** Loops that lie in what a path holds, an entry for each clip. */
export async function findAt(path: string, rate: number, options: FindOptions): Promise<FindEntry[]> {
  try {
    const entries: FindEntry[] = []
    for (const source of await clipsAt(path, rate)) {
      const found = await findIn(source, options).catch(
        (error): FindEntry => ({ file: source.file, error: reasonOf(error) }),
      )
      entries.push(found)
    }
    return entries
  } catch (error) {
    return [{ file: path, error: reasonOf(error) }]
  }
}

/** Frames a second of a clip: as many as it has in its time, however long each is shown. */
export const clipRate = ({ claims: { delaysMs } }: Source): number =>
  (1000 * delaysMs.length) / Math.max(1, total(delaysMs))

const total = (delaysMs: readonly number[]): number => delaysMs.reduce((sum, delay) => sum + delay, 0)

/** How long some frames of a clip are shown together, s; round its end they go on at its start. */
const secondsOf = (delaysMs: readonly number[], { start, length }: Pick<ClipCut, 'start' | 'length'>): number =>
  total(Array.from({ length }, (_, k) => delaysMs[(start + k) % delaysMs.length] ?? 0)) / 1000

/** The shortest loop that is looked for unless another is asked for, frames. */
export const leastLoop = (rate: number, frames: number): number =>
  Math.max(4, Math.min(Math.round(MIN_LOOP_SECONDS * rate), frames >> 2))

/** Loops that lie in a clip. It is read twice: once to find them, once to look at those that were found. @throws ClipError */
export async function findIn(
  source: Source,
  { min, max, from, to, top }: FindOptions,
): Promise<Exclude<FindEntry, { error: string }>> {
  const glimpses: Glimpse[] = []
  for await (const picture of source.frames()) glimpses.push(glimpseOf(picture))
  const frames = glimpses.length
  if (frames <= PICTURES_ONLY) throw new ClipError('It is a single picture: nothing in it can repeat.')
  const rate = clipRate(source)
  const distances = new Distances(glimpses)
  const least = min ?? leastLoop(rate, frames)
  const wanted = { least, most: max ?? frames, from: from ?? 0, to: to ?? frames }
  const period = clipPeriod(distances)
  return {
    file: source.file,
    frames,
    rate: Number(rate.toFixed(3)),
    period,
    cuts: await looked(source, findCuts(cutCosts(distances, wanted), top, null, period)),
  }
}

/** Looks at the seams of loops in a clip, at the size at which files are judged. */
async function looked(source: Source, found: readonly Found[]): Promise<FoundCut[]> {
  const wanted = new Set<number>()
  for (const { near, ...cut } of found)
    for (const { start, length } of [cut, ...near]) for (let n = start; n < start + length; n++) wanted.add(n)
  if (wanted.size === 0) return []
  const side = judgedSide(wanted.size + 1)
  const described = new Map<number, JudgedFrame>()
  let n = 0
  for await (const picture of source.frames()) {
    if (wanted.has(n)) described.set(n, describeFrame(picture, side))
    n++
  }
  const cuts = await refined(found, async ({ start, length }) =>
    judgeDescribed(Array.from({ length }, (_, k) => described.get(start + k) as JudgedFrame)),
  )
  return cuts.map(({ start, length, cost, ratio, verdict }) => ({
    start,
    length,
    seconds: Number(secondsOf(source.claims.delaysMs, { start, length }).toFixed(4)),
    cost: Number(cost.toFixed(4)),
    ratio: Number(ratio.toFixed(4)),
    verdict,
  }))
}

/** 0 where loops lie in every clip, 1 where none does in one, 2 where one cannot be read. */
export const findExitCode = (entries: readonly FindEntry[]): 0 | 1 | 2 =>
  entries.some((entry) => 'error' in entry)
    ? 2
    : entries.some((entry) => 'cuts' in entry && entry.cuts.length === 0)
      ? 1
      : 0

export const findTable = (entries: readonly FindEntry[]): string =>
  entries
    .flatMap((entry) => {
      if ('error' in entry) return [`${entry.file}  cannot be read: ${entry.error}`]
      const { file, frames, rate, period, cuts } = entry
      const time = (n: number) => `${(n / rate).toFixed(2)} s`
      return [
        `${file}  ${frames} f, ${time(frames)}${period === null ? '' : `, comes back every ${period} f`}${cuts.length === 0 ? '  nothing in it loops' : ''}`,
        ...cuts.map(
          ({ start, length, seconds, cost, ratio, verdict }) =>
            `  from ${start}, ${length} f (${seconds.toFixed(2)} s)  costs ${cost.toFixed(2)} steps, seam ${ratio.toFixed(2)}  ${verdict.replaceAll('-', ' ')}`,
        ),
      ]
    })
    .join('\n')
