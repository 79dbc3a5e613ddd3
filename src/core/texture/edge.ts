import { labsOf, type Picture } from '../image'
import { quantile } from '../statistics'

/** A direction in which a tile is laid beside itself. */
export type Axis = 'x' | 'y'

/** How a tile meets itself in one direction. Steps are distances in OKLab. */
export interface EdgeReport {
  readonly verdict: 'closes' | 'shows-an-edge'
  /** The mean step across the edge, and what those inside let expect. */
  readonly step: number
  readonly expected: number
  /** By how much it is the larger, by whichever measure finds most: 1 is as inside. */
  readonly ratio: number
  /** The step from each line to the next; the last one is the one across the edge. */
  readonly steps: readonly number[]
}
export type TileReport = Readonly<Record<Axis, EdgeReport>>

/** Steps that nobody sees, in OKLab; and by how much more than inside an edge is one. */
const UNSEEN = 0.004
const UNSEEN_SHIFT = 0.0025
const EDGE_FROM = 1.75
/** The step at the edge is the picture's own if there are steps over a third of it inside. */
const FAMILY = 3

/** The mean step from each line to the next, and how far all of it shifts as one; the last from the last line to the first. */
function lineSteps(labs: Float32Array, { width, height }: Picture, axis: Axis) {
  const [count, length] = axis === 'x' ? [width, height] : [height, width]
  const at = (line: number, along: number) => 4 * (axis === 'x' ? along * width + line : line * width + along)
  const steps: number[] = []
  const shifts: number[] = []
  for (let line = 0; line < count; line++) {
    const next = (line + 1) % count
    const sum = [0, 0, 0, 0]
    let step = 0
    for (let along = 0; along < length; along++) {
      const p = at(line, along)
      const q = at(next, along)
      let square = 0
      for (let c = 0; c < 4; c++) {
        const d = labs[q + c] - labs[p + c]
        sum[c] += d
        square += d * d
      }
      step += Math.sqrt(square)
    }
    steps.push(step / length)
    shifts.push(Math.hypot(...sum) / length)
  }
  return { steps, shifts }
}

/** How much larger the last of some steps is than the others let expect; 1 where steps as large are a part of the picture. */
function outlier(steps: readonly number[], unseen: number): { expected: number; ratio: number } {
  const edge = steps.at(-1) as number
  const inside = steps.slice(0, -1)
  const expected = Math.max(quantile(inside, 0.95), unseen / EDGE_FROM)
  const alike = inside.filter((step) => step >= 0.85 * edge).length
  const ratio = edge / expected
  return { expected, ratio: alike >= FAMILY ? Math.min(ratio, 1) : ratio }
}

/** How alike two series are: the cosine between them about their means; 1 where neither moves. */
function alikeness(a: readonly number[], b: readonly number[]): number {
  const mean = (of: readonly number[]) => of.reduce((sum, value) => sum + value, 0) / of.length
  const ma = mean(a)
  const mb = mean(b)
  let both = 0
  let aa = 0
  let bb = 0
  for (const [i, value] of a.entries()) {
    const p = value - ma
    const q = b[i] - mb
    both += p * q
    aa += p * p
    bb += q * q
  }
  return aa < 1e-12 && bb < 1e-12 ? 1 : both / Math.sqrt(Math.max(1e-12, aa) * Math.max(1e-12, bb))
}

/** A rhythm inside is one from here on; so strong, it must go on across the edge. */
const RHYTHM = 0.85
const MIN_RHYTHM = 6

/**
 * How much worse a rhythm of the picture's lines, such as rows of squares, goes on across the edge than inside; 1 where there is none. A column
 * that is cut through has no step at its edge, and is narrower than the others all the same.
 */
function brokenRhythm(steps: readonly number[]): number {
  const inside = steps.slice(0, -1)
  let lag = 0
  let best = RHYTHM
  let least = 1
  for (let by = 2; by <= steps.length / 3; by++) {
    const alike = alikeness(inside.slice(0, -by), inside.slice(by))
    // A slow change is like itself for a while: a rhythm disappears in between, and comes back.
    if (least < 0.5 && alike > best + 0.02) {
      lag = by
      best = alike
    }
    least = Math.min(least, alike)
  }
  // Nobody sees a rhythm of a few pixels.
  if (lag < MIN_RHYTHM) return 1
  const from = steps.length - lag
  const across = Array.from(
    { length: lag },
    (_, i) => [steps[from + i], steps[(from + i + lag) % steps.length]] as const,
  )
  const goesOn = alikeness(
    across.map(([a]) => a as number),
    across.map(([, b]) => b as number),
  )
  return 1 + 3.5 * Math.max(0, best - goesOn)
}

function edgeOf(labs: Float32Array, picture: Picture, axis: Axis): EdgeReport {
  const { steps, shifts } = lineSteps(labs, picture, axis)
  const byStep = outlier(steps, UNSEEN)
  const byShift = outlier(shifts, UNSEEN_SHIFT)
  const ratio = Math.max(byStep.ratio, byShift.ratio, brokenRhythm(steps))
  return {
    verdict: ratio > EDGE_FROM ? 'shows-an-edge' : 'closes',
    step: steps.at(-1) as number,
    expected: byStep.expected,
    ratio,
    steps,
  }
}

/** The fewest pixels a side that an edge can be told from. */
export const MIN_TILE_PX = 8

/**
 * How a picture meets itself when it is laid beside itself: the steps of its lines, and the shift of each as a whole, by which a slight step in
 * brightness is found under noise.
 * @throws RangeError where it has too few lines to tell
 */
export function judgeTile(picture: Picture): TileReport {
  if (Math.min(picture.width, picture.height) < MIN_TILE_PX)
    throw new RangeError(
      `A picture of ${picture.width} × ${picture.height} px is too small to tell an edge in: at least ${MIN_TILE_PX} px a side.`,
    )
  const labs = labsOf(picture)
  return { x: edgeOf(labs, picture, 'x'), y: edgeOf(labs, picture, 'y') }
}

/** An edge of one of several frames. */
export interface FrameEdge extends EdgeReport {
  readonly frame: number
}
/** The worst edges of some frames. */
export type FrameEdges = Readonly<Record<Axis, FrameEdge>>

/** Frames of a loop that are looked at as tiles, spread over it. */
const LOOKED_AT = 4

/**
 * How frames meet themselves when each is laid beside itself: the worst of a few of them in each direction, with its number.
 * @param frame the pixels of one of `length` frames
 * @throws RangeError where a frame has too few lines to tell
 */
export async function judgeTiles(length: number, frame: (n: number) => Promise<Picture>): Promise<FrameEdges> {
  const places = new Set(Array.from({ length: LOOKED_AT }, (_, i) => Math.floor((i * length) / LOOKED_AT)))
  const found: FrameEdges[] = []
  for (const n of places) {
    const { x, y } = judgeTile(await frame(n))
    found.push({ x: { ...x, frame: n }, y: { ...y, frame: n } })
  }
  const worst = (axis: Axis) => found.map((each) => each[axis]).reduce((a, b) => (b.ratio > a.ratio ? b : a))
  return { x: worst('x'), y: worst('y') }
}
