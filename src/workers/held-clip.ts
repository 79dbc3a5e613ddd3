import { ClipError, type FileClaims } from '@/codecs/claims'
import { type ClipShape, edgeEditor, type Mend, mendedPlan, mixFrame, type Plan } from '@/core/footage'
import { type Grid, type Picture, reducePicture } from '@/core/image'
import { type ClipReport, type Described, describeFrame, judgeClip, judgedSide } from '@/core/seam'
import { FullFrames, type OpenedClip } from './clip-frames'
import { breathe } from './timing'

/** Others are let in after so long, ms. */
export const BATCH_MS = 12

/** What is known of a file that was opened. */
export interface ClipFacts {
  readonly name: string
  readonly bytes: number
  /** What the file says of itself; format in words. */
  readonly claims: Omit<FileClaims, 'format'> & { readonly format: string }
  /** px of the frames that are kept; less than the claims where all frames at full size would not fit. */
  readonly width: number
  readonly height: number
  readonly transparent: boolean
  /** How a single picture is cut into frames; null for what has frames of its own. */
  readonly grid: Grid | null
}
/** The clip that is open in this worker, and its pictures. */
export interface Held {
  readonly files: readonly File[]
  readonly facts: ClipFacts
  readonly shape: ClipShape
  readonly opened: OpenedClip
  readonly pictures: readonly Picture[]
  /** Of frames that are as they came. */
  readonly described: readonly Described[]
}

let held: Held | null = null
let full: { readonly plan: Plan; readonly frames: FullFrames } | null = null
/** From now on this is the clip that is open. */
export function holdClip(next: Held): void {
  held = next
  full = null
  edits = null
}

type Edit = (picture: Picture) => Picture
export const AS_IT_IS: Edit = (picture) => picture

/**
 * What is seen of a clip with mends; frames that are mixed are so at the size at which they are judged.
 * @param edit of the pictures of the source; null where they are as they came
 * @param pause is waited for now and then; may throw to stop
 */
export async function reportOf(
  plan: Plan,
  { described, pictures }: Pick<Held, 'described' | 'pictures'>,
  edit: Edit | null,
  pause: () => Promise<void> = breathe,
): Promise<ClipReport> {
  const side = judgedSide(plan.frames.length)
  const frames: Described[] = []
  const source = (n: number) => (edit ?? AS_IT_IS)(pictures[n] as Picture)
  let batch = performance.now()
  for (const frame of plan.frames) {
    const [part] = frame.parts
    const asItIs = frame.parts.length === 1 && part?.gain.every((gain) => gain === 1)
    if (asItIs && part && !edit) frames.push(described[part.frame] as Described)
    // A morph takes long: what it is made of is reduced before it.
    else if (frame.morph) frames.push(describeFrame(mixFrame(frame, (n) => reducePicture(source(n), side))))
    else frames.push(describeFrame(reducePicture(mixFrame(frame, source), side)))
    if (performance.now() - batch < BATCH_MS) continue
    await pause()
    batch = performance.now()
  }
  return judgeClip(frames, plan)
}

let edits: { readonly of: Held; readonly inFull: boolean; readonly key: string; readonly edit: Promise<Edit> } | null =
  null
/** What edits the pictures of the clip at the size at which they are kept, or at their full size; null for nothing. */
export async function editOf({ edges }: Plan, inFull: boolean): Promise<Edit | null> {
  if (edges.length === 0) return null
  const of = clip()
  const key = JSON.stringify(edges)
  if (edits?.of !== of || edits.inFull !== inFull || edits.key !== key) {
    const { pictures, opened } = of
    async function* kept() {
      for (const picture of pictures) {
        yield picture
        await breathe()
      }
    }
    async function* read() {
      for await (const { picture } of opened.frames(opened.width, opened.height)) yield picture
    }
    const edit = edgeEditor(edges, inFull && !isKeptInFull(of) ? read : kept)
    edits = { of, inFull, key, edit }
    // What could not be read may be so at another time.
    edit.catch(() => {
      if (edits?.edit === edit) edits = null
    })
  }
  return edits.edit
}

const isKeptInFull = ({ facts }: Held): boolean =>
  facts.width === facts.claims.width && facts.height === facts.claims.height

export const clip = (): Held => {
  if (!held) throw new ClipError('No file is open.')
  return held
}

/** The frames of a plan at full size: those that are kept, where they are kept so, else read anew. */
export async function fullFrames(plan: Plan): Promise<(n: number) => Promise<Picture>> {
  const own = clip()
  const { pictures, opened } = own
  const edit = (await editOf(plan, true)) ?? AS_IT_IS
  if (isKeptInFull(own))
    return async (n) => mixFrame(plan.frames[n] as Plan['frames'][number], (of) => edit(pictures[of] as Picture))
  const frames = new FullFrames(opened, plan, edit)
  return (n) => frames.at(n)
}

const plans = new WeakMap<ClipShape, { readonly key: string; readonly plan: Plan }>()
/** The plan of some mends; the same object as long as they are the same. */
export function planOf(mends: readonly Mend[]): Plan {
  const { shape } = clip()
  const key = JSON.stringify(mends)
  const known = plans.get(shape)
  if (known?.key === key) return known.plan
  const plan = mendedPlan(shape, mends)
  plans.set(shape, { key, plan })
  return plan
}

export async function frameOf(mends: readonly Mend[], n: number, inFull: boolean): Promise<Picture> {
  const { pictures, opened } = clip()
  const plan = planOf(mends)
  const N = plan.frames.length
  const at = ((n % N) + N) % N
  const edit = (await editOf(plan, inFull)) ?? AS_IT_IS
  if (!inFull) return mixFrame(plan.frames[at] as Plan['frames'][number], (of) => edit(pictures[of] as Picture))
  if (full?.plan !== plan) full = { plan, frames: new FullFrames(opened, plan, edit) }
  return full.frames.at(at)
}
