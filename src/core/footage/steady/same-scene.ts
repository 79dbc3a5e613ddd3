import type { Picture } from '../../image'
import { type Grey, sample } from '../look/grey'
import { Aligner } from './camera'
import { sizesOf } from './sizes'
import { composed, inverseView, movedBy, type SceneView, seenAt } from './view'

/** Where a clip lies over a still that shows the same scene. */
export interface LaidOver {
  /** Its middle, in widths of the still from the middle of that. */
  readonly x: number
  readonly y: number
  /** How wide it is, in widths of the still. */
  readonly width: number
  /** How far it is turned, degrees clockwise. */
  readonly rotation: number
  /** How alike they are there, in the light of each place: a correlation, 1 for the same picture. */
  readonly alike: number
}

/**
 * Zooms and shifts at which the scene is searched for; shifts go up to the second value, in widths, one px of the
 * coarsest size apart.
 */
const ZOOMS = [1, 0.8, 1.25, 0.64, 1.5625]
const MAX_SHIFT = 0.15
/**
 * Candidates refined at the coarsest size, candidates refined at all, and the distance in widths below which two count
 * as one.
 */
const COARSE_CANDIDATES = 24
const REFINED_CANDIDATES = 6
const SAME_SHIFT = 0.01
/** Two pictures show the same scene from this correlation on, over at least this share of the smaller one. */
const MIN_CORRELATION = 0.5
const MIN_OVERLAP = 0.5
/** Where they are as alike as this, no other picture is tried. */
const SURE_CORRELATION = 0.8
/** Light is compared at every second px of the still, each way. */
const LIGHT_STEP_PX = 2

/**
 * Where pictures of a clip lie over a still of the same view that was taken by itself: by shift, turn and zoom, from several starts, whatever moves in them.
 * @param pictures some of the clip, of which the one that is most alike is taken
 * @returns null where the scene of the still is not found in any
 */
export function laidOver(still: Picture, pictures: readonly Picture[]): LaidOver | null {
  const standing = sizesOf(still)
  let best: Seen | null = null
  for (const picture of pictures) {
    if (best && best.alike > SURE_CORRELATION) break
    const other = sizesOf(picture)
    const levels = Math.min(standing.length, other.length)
    const own = standing.slice(-levels)
    const sizes = other.slice(-levels)
    const aligner = new Aligner(own, 'similarity')
    const seen = (view: SceneView, level: number) => ({
      view,
      alike: alikeIn(own[level], sizes[level], view),
    })
    const starts = startsFor(own[0].width).map((view) => seen(view, 0))
    const ends = likeliest(starts, COARSE_CANDIDATES).map(({ view }) => seen(aligner.find(sizes, view, 0, 0).view, 0))
    for (const { view } of likeliest(ends, REFINED_CANDIDATES)) {
      const found = seen(aligner.find(sizes, view).view, levels - 1)
      if (found.alike > (best?.alike ?? MIN_CORRELATION)) best = found
    }
  }
  if (!best) return null
  const [a, , x, d, , y] = inverseView(best.view) as [number, number, number, number, number, number]
  return { x, y, width: Math.hypot(a, d), rotation: (Math.atan2(d, a) * 180) / Math.PI, alike: best.alike }
}

interface Seen {
  readonly view: SceneView
  readonly alike: number
}

function startsFor(width: number): SceneView[] {
  const most = Math.round(MAX_SHIFT * width)
  const shifts = Array.from({ length: 2 * most + 1 }, (_, k) => (k - most) / width)
  return ZOOMS.flatMap((zoom) => shifts.flatMap((x) => shifts.map((y): SceneView => [zoom, 0, x, 0, zoom, y, 0, 0, 1])))
}

/** Those that are most alike, no two of them nearly the same. */
function likeliest(all: readonly Seen[], most: number): Seen[] {
  const chosen: Seen[] = []
  for (const one of [...all].sort((a, b) => b.alike - a.alike)) {
    const back = inverseView(one.view)
    if (chosen.every(({ view }) => movedBy(composed(back, view), 1) > SAME_SHIFT)) chosen.push(one)
    if (chosen.length === most) break
  }
  return chosen
}

/** How alike two pictures are as a view has them, by the correlation of their light; 0 where too little of one lies within the other. */
function alikeIn(own: Grey, other: Grey, view: SceneView): number {
  const { width, height, data } = own
  let n = 0
  let sx = 0
  let sy = 0
  let sxx = 0
  let syy = 0
  let sxy = 0
  for (let y = 0; y < height; y += LIGHT_STEP_PX)
    for (let x = 0; x < width; x += LIGHT_STEP_PX) {
      const [ox, oy] = seenAt(view, (x + 0.5 - width / 2) / width, (y + 0.5 - height / 2) / width)
      const px = ox * other.width + other.width / 2 - 0.5
      const py = oy * other.width + other.height / 2 - 0.5
      if (!(px >= 0 && py >= 0 && px <= other.width - 1 && py <= other.height - 1)) continue
      const a = data[y * width + x]
      const b = sample(other, px, py)
      n++
      sx += a
      sy += b
      sxx += a * a
      syy += b * b
      sxy += a * b
    }
  // How many of the places of the smaller are seen, as large as it is over the still.
  const zoom = Math.hypot(view[0], view[3])
  const all = Math.min(width * height, (other.width * other.height * (width / other.width) ** 2) / zoom ** 2)
  if (n < (MIN_OVERLAP * all) / LIGHT_STEP_PX ** 2) return 0
  const spread = Math.sqrt(Math.max(0, (sxx - (sx * sx) / n) * (syy - (sy * sy) / n)))
  return spread > n ? (sxy - (sx * sy) / n) / spread : 0
}
