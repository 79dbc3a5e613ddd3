import { ClipError, type FileClaims } from '@/codecs/claims'
import {
  type ClipPlan,
  type ClipShape,
  editBy,
  type Learned,
  learnEdit,
  type Mend,
  mendedPlan,
  mixFrame,
  type PlanFrame,
  piecesOf,
  sourceAsItIs,
} from '@/core/footage'
import { type Picture, reducePicture, type SheetGrid } from '@/core/image'
import { modulo } from '@/core/modulo'
import { type ClipReport, describeFrame, type JudgedFrame, judgeClip, judgedSide } from '@/core/seam'
import { breathe } from '../shared/timing'
import { FullFrames, type OpenedClip } from './clip-frames'

/** A long computation yields to other requests after this time, ms. */
export const YIELD_AFTER_MS = 12

/** Facts of an opened file. */
export interface ClipFacts {
  readonly name: string
  readonly bytes: number
  /** Header facts of the file, with its format in words. */
  readonly claims: Omit<FileClaims, 'format'> & { readonly format: string }
  /** px of the frames that are kept; less than the claims where all frames at full size would not fit. */
  readonly width: number
  readonly height: number
  readonly transparent: boolean
  /** How a single picture is cut into frames; null for what has frames of its own. */
  readonly grid: SheetGrid | null
}
/** The clip that is open in this worker, and its pictures. */
export interface OpenClip {
  readonly files: readonly File[]
  readonly facts: ClipFacts
  readonly shape: ClipShape
  readonly opened: OpenedClip
  readonly pictures: readonly Picture[]
  /** Of frames that are as they came. */
  readonly described: readonly JudgedFrame[]
}

let held: OpenClip | null = null
let full: { readonly plan: ClipPlan; readonly frames: FullFrames } | null = null
/** From now on this is the clip that is open. */
export function holdClip(next: OpenClip): void {
  held = next
  full = null
}

const AS_IT_IS: Learned['edit'] = (picture) => picture

/**
 * Edits are computed at this multiple of the size that is compared, so that values between pixels are not blurred
 * twice.
 */
const FINER = 3

/**
 * Pictures of a clip as they are edited, for looking at them at no more than a size: what can be edited at any size is reduced before that.
 * @param side the longest that is needed, px
 */
export function smallSource(
  { pictures }: Pick<OpenClip, 'pictures'>,
  learned: readonly Learned[],
  side: number,
): (n: number) => Picture {
  const edit = editBy(learned)
  const size = learned.every(({ anySize }) => anySize) && learned.length > 0 ? FINER * side : Infinity
  return (n) => edit(reducePicture(pictures[n] as Picture, size), n)
}

/** Limit of reduced pictures kept for each size, bytes. */
const MAX_REDUCED_BYTES = 24 * 1024 * 1024
/** Small pictures that have been worked out, by size and number. */
const reduced = new WeakMap<object, Map<number, Map<number, Picture>>>()

/** Pictures of a clip no larger than a size, each worked out once; they are small enough to be kept. */
export function reducedSource(...[held, learned, side]: Parameters<typeof smallSource>): (n: number) => Picture {
  const source = smallSource(held, learned, side)
  // By what was learned last, which is another thing for other edits; and by the clip, where nothing was.
  const of = learned.at(-1) ?? held
  const sizes = reduced.get(of) ?? new Map<number, Map<number, Picture>>()
  reduced.set(of, sizes)
  const known = sizes.get(side) ?? new Map<number, Picture>()
  sizes.set(side, known)
  return (n) => {
    const made = known.get(n) ?? reducePicture(source(n), side)
    if (known.size * made.data.length < MAX_REDUCED_BYTES) known.set(n, made)
    return made
  }
}

/**
 * Report on a clip with its mends; morphed frames are morphed at the size at which they are judged.
 * @param learned for the edits of its source
 * @param pause is awaited now and then; may throw to stop
 */
export async function heldReport(
  plan: ClipPlan,
  held: Pick<OpenClip, 'described' | 'pictures'>,
  learned: readonly Learned[],
  pause: () => Promise<void> = breathe,
): Promise<ClipReport> {
  const side = judgedSide(plan.frames.length)
  const frames: JudgedFrame[] = []
  const source = smallSource(held, learned, side)
  const small = reducedSource(held, learned, side)
  let batch = performance.now()
  for (const frame of plan.frames) {
    const asItIs = learned.length > 0 ? null : sourceAsItIs(frame)
    if (asItIs !== null) frames.push(held.described[asItIs] as JudgedFrame)
    // A morph takes long, and so do many regions: what they are made of is reduced before them.
    else if ('map' in frame || piecesOf(frame).some(({ morph }) => morph))
      frames.push(describeFrame(mixFrame(frame, small)))
    else frames.push(describeFrame(mixFrame(frame, source), side))
    if (performance.now() - batch < YIELD_AFTER_MS) continue
    await pause()
    batch = performance.now()
  }
  return judgeClip(frames, plan)
}

/** At most this many learned results of a clip are kept. */
const MAX_LEARNED = 8
const learned = new WeakMap<OpenClip, Map<string, Learning>>()

type Progress = (done: number, of: number) => Promise<void> | void

/** A learning process with those who wait for it: it goes on as long as anyone does. */
class Learning {
  private readonly waiting = new Set<Progress>()
  private readonly made: Promise<Learned>

  constructor(learn: (progress: Progress) => Promise<Learned>) {
    this.made = learn(async (done, of) => {
      await breathe()
      for (const tell of [...this.waiting]) await tell(done, of)
      if (this.waiting.size === 0) throw new ClipError('It was cancelled.')
    })
    // Who waits is told.
    this.made.catch(() => {})
  }

  get isWaitedFor(): boolean {
    return this.waiting.size > 0
  }

  /** @param progress is told how far it is; where it throws, this wait ends so, and the others go on */
  wait(progress: Progress): Promise<Learned> {
    return new Promise((resolve, reject) => {
      const tell: Progress = async (done, of) => {
        try {
          await progress(done, of)
        } catch (error) {
          this.waiting.delete(tell)
          reject(error)
        }
      }
      this.waiting.add(tell)
      const end =
        <T>(settle: (value: T) => void) =>
        (value: T) => {
          this.waiting.delete(tell)
          settle(value)
        }
      this.made.then(end(resolve), end(reject))
    })
  }
}

/**
 * Learned data for the edits of a plan, from the pictures of the clip at the size at which they are kept, or at full
 * size where that matters.
 * @param progress is told how far learning is; may throw to stop
 */
export async function learnedFor(
  plan: ClipPlan,
  inFull: boolean,
  progress: Progress = breathe,
): Promise<readonly Learned[]> {
  const of = heldClip()
  const { pictures, opened } = of
  const atFull = inFull && !isKeptInFull(of)
  async function* kept() {
    for (const [n, picture] of pictures.entries()) {
      yield { n, picture }
      await breathe()
    }
  }
  const read = () => opened.frames(opened.width, opened.height)
  const small = atFull ? await learnedFor(plan, false, progress) : null
  const known = learned.get(of) ?? new Map<string, Learning>()
  learned.set(of, known)
  const all: Learned[] = []
  for (const [i, edit] of plan.edits.entries()) {
    const taken = small?.[i]
    if (taken?.anySize) {
      all.push(taken)
      continue
    }
    const key = JSON.stringify([atFull, plan.edits.slice(0, i + 1)])
    const before = [...all]
    const learning = known.get(key) ?? new Learning((tell) => learnEdit(edit, before, atFull ? read : kept, tell))
    remember(known, key, learning)
    try {
      all.push(await learning.wait(progress))
    } catch (error) {
      // A failure is not kept: learning may succeed another time. Work that others wait for goes on.
      if (!learning.isWaitedFor) known.delete(key)
      throw error
    }
  }
  return all
}

/** Keeps what was learned, and forgets what was asked for longest ago. */
function remember(known: Map<string, Learning>, key: string, made: Learning): void {
  known.delete(key)
  known.set(key, made)
  const [oldest] = known.keys()
  if (known.size > MAX_LEARNED && oldest !== undefined) known.delete(oldest)
}

/** The editing function for pictures of the clip, at the size at which they are kept or at full size. */
const editOf = async (plan: ClipPlan, inFull: boolean): Promise<Learned['edit']> =>
  plan.edits.length === 0 ? AS_IT_IS : editBy(await learnedFor(plan, inFull))

const isKeptInFull = ({ facts }: OpenClip): boolean =>
  facts.width === facts.claims.width && facts.height === facts.claims.height

export const heldClip = (): OpenClip => {
  if (!held) throw new ClipError('No file is open.')
  return held
}

/** The frames of a plan at full size: those that are kept, where they are kept so, else read anew. */
export async function fullFrames(plan: ClipPlan): Promise<(n: number) => Promise<Picture>> {
  const own = heldClip()
  const { pictures, opened } = own
  const edit = await editOf(plan, true)
  if (isKeptInFull(own))
    return async (n) => mixFrame(plan.frames[n] as PlanFrame, (of, where) => edit(pictures[of] as Picture, of, where))
  const frames = new FullFrames(opened, plan, edit)
  return (n) => frames.at(n)
}

const plans = new WeakMap<ClipShape, { readonly key: string; readonly plan: ClipPlan }>()
/** The plan of some mends; the same object as long as they are the same. */
export function heldPlan(mends: readonly Mend[]): ClipPlan {
  const { shape } = heldClip()
  const key = JSON.stringify(mends)
  const known = plans.get(shape)
  if (known?.key === key) return known.plan
  const plan = mendedPlan(shape, mends)
  plans.set(shape, { key, plan })
  return plan
}

export async function frameOf(mends: readonly Mend[], n: number, inFull: boolean): Promise<Picture> {
  const own = heldClip()
  const { pictures, opened } = own
  const plan = heldPlan(mends)
  const N = plan.frames.length
  const at = modulo(n, N)
  const edit = await editOf(plan, inFull)
  if (!inFull || isKeptInFull(own))
    return mixFrame(plan.frames[at] as PlanFrame, (of, where) => edit(pictures[of] as Picture, of, where))
  if (full?.plan !== plan) full = { plan, frames: new FullFrames(opened, plan, edit) }
  return full.frames.at(at)
}
