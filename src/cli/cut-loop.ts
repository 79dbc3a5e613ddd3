import { type Fraction, fraction } from '@/core/clock'
import { newLoop } from '@/core/edit'
import { applyMend, type ClipShape, type Mend, mixFrame, type Plan, planOf } from '@/core/footage'
import type { Picture } from '@/core/image'
import { PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { reasonOf } from './check'
import { CommandError } from './command-error'
import { clipsAt, findIn, rateOf } from './find'
import type { Join } from './joins'
import type { Source } from './sources'
import { formatOf, stemOf, writeProven } from './write'

export interface LoopOptions {
  readonly out: string
  readonly start: number | null
  readonly length: number | null
  /** null takes the plain cut where that closes, and else an overlap that keeps contrast. */
  readonly join: Join | null
  readonly overlap: number | null
}

/** Frames over which ends overlap, as a share of the loop, and at the most. */
const OVERLAP = { share: 1 / 6, most: 24 }
/** Frames of the clip that are kept at hand, bytes. */
const KEPT = 192 * 1024 * 1024

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
  const [source, other] = await clipsAt(path, rate)
  if (!source || other) throw new CommandError(`${path} holds several clips. Name one of them.`)
  const cut = await cutOf(path, source, options)
  const frames = source.claims.delaysMs.length
  if (cut.start + cut.length > frames)
    throw new CommandError(`${path} has ${frames} frames; ${cut.length} from ${cut.start} on are not among them.`)
  const join: Join = options.join ?? (cut.closes ? 'cut' : 'contrast')
  const plan = joined(frames, cut, join, options.overlap)
  const reel = new Reel(source, plan)
  const first = await reel.at(plan.frames[0]?.parts[0]?.frame ?? 0)
  const { width, height } = first
  const loopRate = nearestRate(rateOf(source))
  const loop = newLoop(
    {
      name: stemOf(path),
      kind: 'cinemagraph',
      width,
      height,
      background: '#000000',
      rate: loopRate,
      length: plan.frames.length,
    },
    'cut',
  )
  const settings = withFormat(PLAIN_SETTINGS, format)
  const timing = timingIn(loop, settings)
  const draw = (n: number): Promise<Picture> => reel.mixed(timing.frames[n] as number)
  const job = { loop, name: stemOf(path), width, height, timing, rate: loopRate, settings, transparent: true, draw }
  const { encoded, proof } = await writeProven(options.out, job)
  const seen = proof ? `proven: ${proof.seam.verdict.replaceAll('-', ' ')}` : 'vectors'
  return [
    `${path}: from ${cut.start}, ${cut.length} f, ${WORDS[join]}`,
    `${options.out}: ${timing.frames.length} frames of ${width} × ${height} px, ${(encoded.bytes.length / 1000).toFixed(1)} kB, ${seen}`,
  ]
}

const WORDS: Readonly<Record<Join, string>> = {
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
    throw new CommandError(`${path}: nothing in it loops. Say where to cut it with --start and --length, and --mend.`)
  return { ...best, closes: best.verdict === 'closes' }
}

/** The plan of a cut with its ends joined; frames that lead to its start are taken from before it, or from after its end. @throws CommandError */
function joined(frames: number, { start, length }: Wanted, join: Join, overlap: number | null): Plan {
  const clip: ClipShape = { delaysMs: Array.from({ length: frames }, () => 40), playsForever: true, means: [] }
  const mend = (plan: Plan, ...mends: readonly Mend[]) =>
    mends.reduce((made, each) => applyMend(made, each, clip), plan)
  const whole = planOf(clip)
  if (join === 'cut') return mend(whole, { kind: 'crop', from: start, to: start + length - 1 })
  if (join === 'there-and-back')
    return mend(whole, { kind: 'crop', from: start, to: start + length - 1 }, { kind: 'there-and-back' })
  const asked = overlap ?? Math.min(OVERLAP.most, Math.max(1, Math.round(OVERLAP.share * length)))
  const before = start >= asked
  const room = before ? asked : Math.min(asked, Math.max(start, frames - start - length))
  if (room < 1)
    throw new CommandError(
      'There are no frames before or after the loop for its ends to overlap. Take fewer, or --mend there-and-back.',
    )
  const from = before || start >= room ? start - room : start
  return mend(
    whole,
    { kind: 'crop', from, to: from + length + room - 1 },
    { kind: 'overlap', frames: room, keepVariance: join === 'contrast', morph: join === 'morph' },
  )
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

/** Frames of a clip, read forwards; what is mixed into others later is kept. */
class Reel {
  private reading: AsyncGenerator<Picture> | null = null
  private next = 0
  private readonly kept = new Map<number, Picture>()
  private readonly mixedIn: ReadonlySet<number>

  constructor(
    private readonly source: Source,
    private readonly plan: Plan,
  ) {
    this.mixedIn = new Set(plan.frames.flatMap(({ parts }) => parts.slice(1).map(({ frame }) => frame)))
  }

  async at(frame: number): Promise<Picture> {
    const known = this.kept.get(frame)
    if (known) return known
    if (!this.reading || frame < this.next) {
      await this.reading?.return(undefined)
      this.reading = this.source.frames()
      this.next = 0
    }
    for (;;) {
      const { value, done } = await this.reading.next()
      if (done || !value) throw new CommandError(`The clip breaks off at frame ${this.next}.`)
      const n = this.next++
      this.keep(n, value)
      if (n === frame) return value
    }
  }

  async mixed(n: number): Promise<Picture> {
    const frame = this.plan.frames[n] as Plan['frames'][number]
    const pictures = new Map<number, Picture>()
    // Those that come first in the clip are asked for first.
    for (const part of [...frame.parts].sort((a, b) => a.frame - b.frame))
      pictures.set(part.frame, await this.at(part.frame))
    return mixFrame(frame, (of) => pictures.get(of) as Picture)
  }

  private keep(n: number, picture: Picture): void {
    this.kept.set(n, picture)
    const most = Math.max(2, Math.floor(KEPT / picture.data.length))
    for (const old of this.kept.keys()) {
      if (this.kept.size - this.mixedIn.size <= most) return
      if (!this.mixedIn.has(old)) this.kept.delete(old)
    }
  }
}
