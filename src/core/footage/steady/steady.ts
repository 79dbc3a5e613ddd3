import { type Picture, reducePicture } from '../../image'
import { Aligner, type CameraModel } from './camera'
import { laidAs } from './laid'
import { sizesOf } from './sizes'
import { composed, movedBy, SAME_VIEW, type SceneView, seenAt } from './view'

/** The part of the scene that a steady picture shows: its scale and its centre, in widths of the picture. */
export interface ShownScene {
  readonly x: number
  readonly y: number
  readonly scale: number
}

/** How a camera moved over a clip. */
export interface CameraPath {
  readonly aspect: number
  /** Where places of the scene lie in each picture. */
  readonly views: readonly SceneView[]
  /** How far places move about where they are in the mean, root mean square, in widths of the picture. */
  readonly shake: number
  /** Pictures in which the scene was not found: they lie between those beside them. */
  readonly lost: readonly number[]
}

/** The steady scene is the mean of at most this many pictures: moving objects and grain fade in it. */
const MAX_MEAN_FRAMES = 24
/** Sizes at which pictures are first looked at, px, and at which their places are found. */
const ROUGH_PX = 160
const FINE_PX = 320
/**
 * The scene is found if this share of the located places agrees; the camera has left it where less than the second
 * value, as a share, is left to show.
 */
const MIN_AGREEING = 0.25
const MIN_SHOWN = 0.5
/** A shift beyond this, in widths, is another scene or a false match. */
const MAX_SHIFT = 0.6

/** Thrown when a clip cannot be steadied; its message says why. */
export class UnsteadyError extends Error {
  override name = 'UnsteadyError'
}

type Frames = () => AsyncIterable<Picture> | Iterable<Picture>

/**
 * Finds how the camera moved: each picture against one of the middle, and then, finer, against the mean of those that were found.
 * @param frames the pictures in their order, each time it is asked; it is so seven times
 * @param count of the pictures
 * @throws UnsteadyError where nothing in them tells where it lies
 */
export async function cameraPath(
  frames: Frames,
  count: number,
  model: CameraModel,
  progress: (done: number, of: number) => Promise<void> | void = () => {},
): Promise<CameraPath> {
  const middle = await pictureAt(frames, count >> 1)
  const aspect = middle.height / middle.width
  const rough = await roughAligner(frames, count, middle, model)
  const firsts: (SceneView | null)[] = []
  let n = 0
  let last = SAME_VIEW
  for await (const picture of frames()) {
    const sizes = sizesOf(picture, ROUGH_PX)
    const tries = [rough.find(sizes, last), ...(last === SAME_VIEW ? [] : [rough.find(sizes)])]
    const best = tries.reduce((a, b) => (b.agrees > a.agrees ? b : a))
    const found = best.agrees >= MIN_AGREEING && movedBy(best.view, aspect) < MAX_SHIFT
    firsts.push(found ? best.view : null)
    if (found) last = best.view
    await progress(++n, 3 * count)
  }
  if (firsts.filter(Boolean).length < Math.max(2, count / 2))
    throw new UnsteadyError(
      'The same scene is not found in most of its frames: they are too plain, or the camera goes elsewhere. Crop to where it stays.',
    )
  const standing = await meanScene(frames, firsts)
  const fine = new Aligner(sizesOf(standing, FINE_PX), model)
  const every = Math.max(1, Math.floor(count / MAX_MEAN_FRAMES))
  n = 0
  for await (const picture of frames()) {
    const first = firsts[n]
    if (first && n % every === 0) fine.find(sizesOf(picture, FINE_PX), first, fine.coarsestNear)
    await progress(count + ++n, 3 * count)
  }
  fine.settle()
  const seconds: (SceneView | null)[] = []
  n = 0
  for await (const picture of frames()) {
    const first = firsts[n]
    // From near by, coarse sizes would only lead away.
    const found = first && fine.find(sizesOf(picture, FINE_PX), first, fine.coarsestNear)
    seconds.push(found && found.agrees >= MIN_AGREEING ? found.view : (first ?? null))
    await progress(2 * count + ++n, 3 * count)
  }
  const { views, lost } = filled(seconds)
  return { aspect, views, shake: shakeOf(views, aspect), lost }
}

/** Frames that are tried against each candidate to align to. */
const TRIED_FRAMES = 8

/**
 * The picture that all others are first aligned to: the middle one, or the plain mean of some, if more of them agree
 * with that. In the mean moving objects have faded; it serves where the camera moves little.
 */
async function roughAligner(frames: Frames, count: number, middle: Picture, model: CameraModel): Promise<Aligner> {
  const one = new Aligner(sizesOf(middle, ROUGH_PX), model)
  const all = new Aligner(sizesOf(await meanScene(frames, Array<SceneView>(count).fill(SAME_VIEW)), ROUGH_PX), model)
  const every = Math.max(1, Math.floor(count / TRIED_FRAMES))
  let first = 0
  let second = 0
  let n = 0
  for await (const picture of frames()) {
    if (n++ % every !== 0) continue
    const sizes = sizesOf(picture, ROUGH_PX)
    first += one.find(sizes).agrees
    second += all.find(sizes).agrees
  }
  return second > first ? all : one
}

async function pictureAt(frames: Frames, at: number): Promise<Picture> {
  let n = 0
  let latest: Picture | null = null
  for await (const picture of frames()) {
    latest = picture
    if (n++ === at) break
  }
  if (!latest) throw new UnsteadyError('There are no frames.')
  return latest
}

/** The mean of some of the pictures, each laid as the first was. */
async function meanScene(frames: Frames, views: readonly (SceneView | null)[]): Promise<Picture> {
  const found = views.flatMap((view, n) => (view ? [n] : []))
  const chosen = new Set(
    Array.from(
      { length: Math.min(MAX_MEAN_FRAMES, found.length) },
      (_, k) => found[Math.floor(((k + 0.5) * found.length) / Math.min(MAX_MEAN_FRAMES, found.length))],
    ),
  )
  let sums: Float64Array | null = null
  let counts: Uint16Array | null = null
  let size = { width: 0, height: 0 }
  let n = 0
  for await (const picture of frames()) {
    const view = views[n]
    if (view && chosen.has(n)) {
      const small = reducePicture(picture, FINE_PX)
      const { width, height } = small
      size = { width, height }
      sums ??= new Float64Array(3 * width * height)
      counts ??= new Uint16Array(width * height)
      addLaid(small, view, sums, counts)
    }
    n++
  }
  const { width, height } = size
  const data = new Uint8ClampedArray(4 * width * height)
  for (let p = 0; p < width * height; p++) {
    const times = counts?.[p] ?? 0
    for (let c = 0; c < 3; c++) data[4 * p + c] = times > 0 ? (sums?.[3 * p + c] as number) / times : 0
    data[4 * p + 3] = 255
  }
  return { width, height, data }
}

function addLaid(picture: Picture, view: SceneView, sums: Float64Array, counts: Uint16Array): void {
  const { width, height } = picture
  const laid = laidAs(picture, view)
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const [sx, sy] = seenAt(view, (x + 0.5 - width / 2) / width, (y + 0.5 - height / 2) / width)
      if (Math.abs(sx) > 0.5 || Math.abs(sy) > height / width / 2) continue
      counts[p] += 1
      for (let c = 0; c < 3; c++) sums[3 * p + c] += laid.data[4 * p + c]
    }
}

/** Views where none was found lie between those beside them. */
function filled(views: readonly (SceneView | null)[]): { views: SceneView[]; lost: number[] } {
  const lost = views.flatMap((view, n) => (view ? [] : [n]))
  const at = (from: number, step: number): number => {
    for (let n = from; n >= 0 && n < views.length; n += step) if (views[n]) return n
    return -1
  }
  const out = views.map((view, n) => {
    if (view) return view
    const a = at(n, -1)
    const b = at(n, 1)
    const [before, after] = [views[a] ?? views[b], views[b] ?? views[a]] as [SceneView, SceneView]
    const w = a >= 0 && b >= 0 ? (n - a) / (b - a) : 0
    return before.map((value, k) => (1 - w) * value + w * after[k])
  })
  return { views: out, lost }
}

/** Places by which it is told how far a view moves. */
const placesIn = (aspect: number) => [-0.4, 0, 0.4].flatMap((x) => [-0.4, 0, 0.4].map((y) => [x, y * aspect] as const))

function shakeOf(views: readonly SceneView[], aspect: number): number {
  let sum = 0
  let count = 0
  for (const [x, y] of placesIn(aspect)) {
    const seen = views.map((view) => seenAt(view, x, y))
    const mean = [0, 1].map((k) => seen.reduce((all, place) => all + place[k], 0) / views.length)
    for (const place of seen) {
      sum += (place[0] - mean[0]) ** 2 + (place[1] - mean[1]) ** 2
      count++
    }
  }
  return Math.sqrt(sum / Math.max(1, count))
}

/**
 * The largest part of the scene, of the shape of the picture, that all pictures show.
 * @throws UnsteadyError where that is less than half as wide as they are
 */
export function shownByAll({ views, aspect }: Pick<CameraPath, 'views' | 'aspect'>): ShownScene {
  /** A middle from which a part of such a scale is within all pictures; null where there is none. */
  const middleFor = (scale: number, from: readonly [number, number]): readonly [number, number] | null => {
    let [x, y] = from
    for (let round = 0; round < 60; round++) {
      // How far corners are out to the left and the right, to the top and the bottom.
      let left = 0
      let right = 0
      let top = 0
      let bottom = 0
      for (const view of views)
        for (const cx of [-0.5, 0.5])
          for (const cy of [-0.5, 0.5]) {
            const [sx, sy] = seenAt(view, x + scale * cx, y + scale * cy * aspect)
            left = Math.max(left, -0.5 - sx)
            right = Math.max(right, sx - 0.5)
            top = Math.max(top, -aspect / 2 - sy)
            bottom = Math.max(bottom, sy - aspect / 2)
          }
      if (Math.max(left, right, top, bottom) < 1e-6) return [x, y]
      if (left > 1e-6 && right > 1e-6 && round > 20) return null
      x += (left - right) * (left > 0 && right > 0 ? 0.5 : 1)
      y += (top - bottom) * (top > 0 && bottom > 0 ? 0.5 : 1)
    }
    return null
  }
  const whole = middleFor(1, [0, 0])
  if (whole) return { x: whole[0], y: whole[1], scale: 1 }
  const least = middleFor(MIN_SHOWN, [0, 0])
  if (!least)
    throw new UnsteadyError(
      'The camera goes too far: not even half of its picture is seen in all frames. Crop to where it stays, or take fewer frames.',
    )
  let best: ShownScene = { x: least[0], y: least[1], scale: MIN_SHOWN }
  let most = 1
  for (let round = 0; round < 12; round++) {
    const scale: number = (best.scale + most) / 2
    const middle = middleFor(scale, [best.x, best.y])
    if (middle) best = { x: middle[0], y: middle[1], scale }
    else most = scale
  }
  return best
}

/** The view of a frame that shows that part of the scene and nothing else. */
export const viewShowing = (view: SceneView, { x, y, scale }: ShownScene): SceneView =>
  composed(view, [scale, 0, x, 0, scale, y, 0, 0, 1])
