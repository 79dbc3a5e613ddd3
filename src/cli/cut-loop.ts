import { type Fraction, fraction } from '@/core/clock'
import { newLoop } from '@/core/edit'
import {
  applyMend,
  type CameraModel,
  type ClipPlan,
  type ClipShape,
  type Grain,
  grainIn,
  type Mend,
  mendWords,
  PartsFinder,
  type PlanFrame,
  plainPlan,
  sourcesOf,
} from '@/core/footage'
import type { Picture } from '@/core/image'
import { PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { reasonOf } from './check'
import { CommandError } from './command-error'
import { clipRate, clipsAt, findIn, leastLoop } from './find'
import type { Join } from './joins'
import { Reel } from './reel'
import type { Source } from './sources'
import { steadySource } from './steady'
import { formatOf, stemOf, writeProven } from './write'

export interface LoopOptions {
  readonly out: string
  readonly force?: boolean
  readonly start: number | null
  readonly length: number | null
  /** null takes the plain cut where that closes, and else an overlap that keeps contrast. */
  readonly join: Join | null
  readonly overlap: number | null
  /** How the camera’s own movement is taken out first; null leaves it in. */
  readonly steady: CameraModel | null
  /** Of parts: how much moves, from nothing, 0, to all that does, 1. */
  readonly amount: number
}

/** Frames over which ends overlap, as a share of the loop, and at the most. */
const OVERLAP = { share: 1 / 6, most: 24 }

/**
 * Cuts a loop out of a clip, joins its ends and writes it, proven; without a cut, the best that is found.
 * @returns what was done, in lines
 * @throws CommandError
 */
export async function loopFrom(path: string, rate: number, options: LoopOptions): Promise<string[]> {
  try {
    return await cutOut(path, rate, options)
  } catch (error) {
    if (error instanceof CommandError) throw error
    throw new CommandError(`${path}: ${reasonOf(error)}`)
  }
}

async function cutOut(path: string, rate: number, options: LoopOptions): Promise<string[]> {
  const format = formatOf(options.out)
  const [raw, other] = await clipsAt(path, rate)
  if (!raw || other) throw new CommandError(`${path} holds several clips. Name one of them.`)
  const frames = raw.claims.delaysMs.length
  within(path, frames, options)
  const steady = options.steady && (await steadySource(raw, options.steady, rangeOf(frames, options)))
  const source = steady ? steady.source : raw
  const { plan, words } = options.join === 'parts' ? await inParts(source, options) : await atCut(path, source, options)
  const reel = new Reel(source, plan)
  try {
    const pace = paceOf(source, plan)
    const done = await written(path, reel, plan, pace.rate, options.out, format, options.force ?? false)
    const said = [words, ...(steady ? [steady.words] : []), ...(pace.words ? [pace.words] : [])]
    return [...said.map((each) => `${path}: ${each}`), done]
  } finally {
    await reel.close()
  }
}

/** Delays that differ by no more are an even pace as a file that counts in hundredths rounds it, ms. */
const ROUNDING_MS = 10

/** The rate of a loop that is cut from a clip. Uneven delays are evened out, so that the whole takes as long as it did; then it is said. */
function paceOf(source: Source, { delaysMs }: ClipPlan): { readonly rate: Fraction; readonly words: string | null } {
  const least = Math.min(...delaysMs)
  const most = Math.max(...delaysMs)
  if (most - least <= ROUNDING_MS) return { rate: nearestRate(clipRate(source)), words: null }
  const total = delaysMs.reduce((sum, delay) => sum + delay, 0)
  const rate = nearestRate((1000 * delaysMs.length) / total)
  const each = (total / delaysMs.length).toFixed(0)
  return {
    rate,
    words: `its frames are shown for ${Math.round(least)} to ${Math.round(most)} ms; in the loop each is shown for ${each} ms, so that it still takes ${(total / 1000).toFixed(2)} s`,
  }
}

/** Writes the frames of a plan, and proves the file. @returns what was written, in words */
async function written(
  path: string,
  reel: Reel,
  plan: ClipPlan,
  rate: Fraction,
  out: string,
  format: ReturnType<typeof formatOf>,
  force: boolean,
): Promise<string> {
  const { width, height } = await reel.at(sourcesOf(plan.frames[0] as PlanFrame)[0] ?? 0)
  const name = stemOf(path)
  const length = plan.frames.length
  const loop = newLoop({ name, kind: 'cinemagraph', width, height, background: '#000000', rate, length }, 'cut')
  const settings = withFormat(PLAIN_SETTINGS, format)
  const timing = timingIn(loop, settings)
  const draw = (n: number): Promise<Picture> => reel.mixed(timing.frames[n] as number)
  const job = { loop, name, width, height, timing, rate, settings, transparent: true, draw }
  const { encoded, proof } = await writeProven(out, job, { reads: [path], force })
  const seen = proof ? `proven: ${proof.seam.verdict.replaceAll('-', ' ')}` : 'vectors'
  return `${out}: ${timing.frames.length} frames of ${width} × ${height} px, ${(encoded.bytes.length / 1000).toFixed(1)} kB, ${seen}`
}

/** @throws CommandError where the cut that is asked for is not in the clip */
function within(path: string, frames: number, { start, length }: LoopOptions): void {
  if (start !== null && length !== null && start + length > frames)
    throw new CommandError(`${path} has ${frames} frames; ${length} from ${start} on are not among them.`)
}

/** The frames of a clip that a loop may be made of: those of the cut that is asked for, and those about it into which it may overlap. */
function rangeOf(frames: number, { start, length, overlap, join }: LoopOptions) {
  if (start === null || length === null || join === 'parts') return { from: 0, to: frames - 1 }
  const room = overlap ?? OVERLAP.most
  return { from: Math.max(0, start - room), to: Math.min(frames - 1, start + length - 1 + room) }
}

interface Made {
  readonly plan: ClipPlan
  readonly words: string
}

async function atCut(path: string, source: Source, options: LoopOptions): Promise<Made> {
  const cut = await cutOf(path, source, options)
  const join = options.join === null || options.join === 'parts' ? (cut.closes ? 'cut' : 'contrast') : options.join
  return {
    plan: joined(source.claims.delaysMs, cut, join, options.overlap, await grainAt(source)),
    words: `from ${cut.start}, ${cut.length} f, ${WORDS[join]}`,
  }
}

/** Each region of the picture with a loop of its own; a length that is asked for is that after which all come home. */
async function inParts(source: Source, { length, amount }: LoopOptions): Promise<Made> {
  const finder = new PartsFinder()
  for await (const picture of source.frames()) finder.add(picture)
  const { delaysMs } = source.claims
  const least = leastLoop(clipRate(source), delaysMs.length)
  const { regions } = await finder.find({ least, length, amount })
  const clip: ClipShape = { delaysMs, playsForever: true, means: [], grain: await grainAt(source) }
  return { plan: applyMend(plainPlan(clip), regions, clip), words: mendWords(regions) }
}

/** Number of frames in which the grain of a clip is measured. */
const GRAIN_FRAMES = 6

/** How much grain a clip has. */
async function grainAt(source: Source): Promise<Grain | undefined> {
  const pictures: Picture[] = []
  for await (const picture of source.frames()) {
    pictures.push(picture)
    if (pictures.length >= GRAIN_FRAMES) break
  }
  return grainIn(pictures)
}

const WORDS: Readonly<Record<Exclude<Join, 'parts'>, string>> = {
  cut: 'cut as it is',
  overlap: 'its ends overlap',
  contrast: 'its ends overlap, their contrast kept',
  morph: 'its ends morphed into each other along their motion',
  'there-and-back': 'there and back',
}

interface Wanted {
  readonly start: number
  readonly length: number
  readonly closes: boolean
}

async function cutOf(path: string, source: Source, { start, length }: LoopOptions): Promise<Wanted> {
  if (start !== null && length !== null) return { start, length, closes: false }
  if (start !== null || length !== null)
    throw new CommandError(
      'Say both, where the loop starts and how long it is; or neither, for the best that is found.',
    )
  const { cuts } = await findIn(source, { min: null, max: null, from: null, to: null, top: 1 })
  const [best] = cuts
  if (!best)
    throw new CommandError(
      `${path}: nothing in it loops. Say where to cut it with --start and --length, and --mend; or try --mend parts.`,
    )
  return { ...best, closes: best.verdict === 'closes' }
}

/** The plan of a cut with its ends joined; frames that lead to its start are taken from before it, or from after its end. @throws CommandError */
function joined(
  delaysMs: readonly number[],
  { start, length }: Wanted,
  join: Exclude<Join, 'parts'>,
  overlap: number | null,
  grain: Grain | undefined,
): ClipPlan {
  const clip: ClipShape = { delaysMs, playsForever: true, means: [], grain }
  const mend = (plan: ClipPlan, by: Mend) => applyMend(plan, by, clip)
  const cut = mend(plainPlan(clip), { kind: 'crop', from: start, to: start + length - 1 })
  if (join === 'cut') return cut
  if (join === 'there-and-back') return mend(cut, { kind: 'there-and-back' })
  const asked = overlap ?? Math.min(OVERLAP.most, Math.max(1, Math.round(OVERLAP.share * length)))
  const room = Math.min(asked, length >> 1, Math.max(cut.before.length, cut.after.length))
  if (room < 1)
    throw new CommandError(
      'There are no frames before or after the loop for its ends to overlap. Take fewer, or --mend there-and-back.',
    )
  return mend(cut, { kind: 'overlap', frames: room, keepVariance: join === 'contrast', morph: join === 'morph' })
}

/** The nearest rate that is used, or one in thousandths. */
function nearestRate(rate: number): Fraction {
  for (const [num, den] of [
    [24000, 1001],
    [30000, 1001],
    [60000, 1001],
    [Math.round(rate), 1],
  ] as const)
    if (den > 0 && num > 0 && Math.abs(num / den / rate - 1) < 4e-4) return fraction(num, den)
  return fraction(Math.max(1, Math.round(rate * 1000)), 1000)
}
