import { flattened, type Picture, reducePicture } from '../../image'
import type { Ground } from '../../seam'
import type { CameraModel } from '../steady/camera'
import { inLight, LIGHT_SIDE, lightFactors } from '../steady/even-light'
import { laidAs, type Where } from '../steady/laid'
import type { ShownScene } from '../steady/steady'
import { SameEdge } from './edge'
import type { SourceEdit, SourceMend } from './plan'

/** Facts of a clip that was steadied; lengths in widths of its picture. */
export interface Steadied {
  readonly model: CameraModel
  /** How far places moved, root mean square, and how far they still do. */
  readonly before: number
  readonly after: number
  readonly shown: ShownScene
  /** Frames of the source in which the scene was not found. */
  readonly lost: readonly number[]
}

/** Result of learning from the pictures of a clip, for an edit. */
export interface Learned {
  /** @param n the frame of the source */
  readonly edit: (picture: Picture, n: number, where?: Where) => Picture
  /** True if pictures of any size can be edited, whatever the size of those it was learned from. */
  readonly anySize: boolean
  readonly steadied?: Steadied
}

/** A picture of a source, and which one. */
interface SourcePicture {
  readonly n: number
  readonly picture: Picture
}
type Frames = () => AsyncIterable<SourcePicture> | Iterable<SourcePicture>
type Progress = (done: number, of: number) => Promise<void> | void

/** The residual shake is measured in at most this many frames. */
const MAX_MEASURED_FRAMES = 24
/**
 * A clip is not steadied if more than this share of its shake would be left, unless the residual is below the second
 * value, in widths.
 */
const MAX_SHAKE_LEFT = 0.7
const STEADY_RESIDUAL = 0.001

/** The function that edits a picture of the source by what was learned, edit by edit. */
export const editBy =
  (learned: readonly Learned[]): Learned['edit'] =>
  (picture, n, where) =>
    // An edit may need more than the wanted part of the picture before it: only the last one is told which part that
    // is.
    learned.reduce((made, { edit }, k) => edit(made, n, k === learned.length - 1 ? where : undefined), picture)

/**
 * Learns what an edit needs to know of the pictures of a source.
 * @param before what was learned for the edits before it
 * @param frames the pictures of the source from 0 on, in their order, each time it is asked
 * @throws UnsteadyError where a clip cannot be steadied
 */
export function learnEdit(
  edit: SourceEdit,
  before: readonly Learned[],
  frames: Frames,
  progress: Progress = () => {},
): Promise<Learned> {
  const made = editBy(before)
  async function* own() {
    for await (const { n, picture } of frames()) {
      if (n > edit.to) return
      if (n >= edit.from) yield made(picture, n)
    }
  }
  const { mend, from, to } = edit
  const learnKind = LEARN[mend.kind] as Learn<SourceMend>
  return learnKind(mend, { from, count: to - from + 1 }, own, progress)
}

/** Learns what some edits need to know, in order. */
export async function learn(
  edits: readonly SourceEdit[],
  frames: Frames,
  progress: Progress = () => {},
): Promise<Learned[]> {
  const learned: Learned[] = []
  for (const edit of edits) learned.push(await learnEdit(edit, [...learned], frames, progress))
  return learned
}

/** Frames of a source. */
interface Range {
  readonly from: number
  readonly count: number
}

/** Learns what one kind of mend needs to know of the frames that it holds for. */
type Learn<M extends SourceMend> = (
  mend: M,
  range: Range,
  frames: () => AsyncGenerator<Picture>,
  progress: Progress,
) => Promise<Learned>

const LEARN: { readonly [K in SourceMend['kind']]: Learn<Extract<SourceMend, { kind: K }>> } = {
  matte: async ({ colour }) => ({ anySize: true, edit: (picture) => flattened(picture, colour) }),
  'same-edge': ({ ground }, _, frames) => sameEdge(ground, frames),
  'even-light': (_, range, frames, progress) => evenLight(range, frames, progress),
  steady: ({ model }, range, frames, progress) => steady(model, range, frames, progress),
}

async function evenLight(
  { from, count }: Range,
  frames: () => AsyncGenerator<Picture>,
  progress: Progress,
): Promise<Learned> {
  const small: Picture[] = []
  for await (const picture of frames()) {
    small.push(reducePicture(picture, LIGHT_SIDE))
    await progress(small.length, count)
  }
  const factors = lightFactors(small)
  return { anySize: true, edit: (picture, n) => inLight(picture, factors[n - from] ?? []) }
}

async function sameEdge(ground: Ground, frames: () => AsyncGenerator<Picture>): Promise<Learned> {
  let same: SameEdge | null = null
  for await (const picture of frames()) {
    same ??= new SameEdge(picture.width * picture.height, ground)
    same.learn(picture)
  }
  for await (const picture of frames()) same?.learnMoving(picture)
  const learned = same
  return { anySize: false, edit: (picture) => learned?.edit(picture) ?? picture }
}

async function steady(
  model: CameraModel,
  { from, count }: Range,
  frames: () => AsyncGenerator<Picture>,
  progress: Progress,
): Promise<Learned> {
  // Comes when the first clip is steadied.
  const { cameraPath, shownByAll, UnsteadyError, viewShowing } = await import('../steady/steady')
  const path = await cameraPath(frames, count, model, progress)
  const shown = shownByAll(path)
  const edit = (picture: Picture, n: number, where?: Where) => {
    const view = path.views[n - from]
    return view ? laidAs(picture, viewShowing(view, shown), where) : picture
  }
  const every = Math.max(1, Math.ceil(count / MAX_MEASURED_FRAMES))
  const some = Math.ceil(count / every)
  async function* steadied() {
    let n = 0
    for await (const picture of frames()) if (n++ % every === 0) yield edit(picture, from + n - 1)
  }
  const { shake: after } = await cameraPath(steadied, some, model)
  if (after > MAX_SHAKE_LEFT * path.shake && path.shake > STEADY_RESIDUAL)
    throw new UnsteadyError(
      'It would be no steadier than it is: too little in it stands still. Crop to a part in which more does, or leave it as it is.',
    )
  const lost = path.lost.map((n) => n + from)
  return { anySize: true, edit, steadied: { model, before: path.shake, after, shown, lost } }
}
