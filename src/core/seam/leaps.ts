import { greatest, median } from '../statistics'
import { CHANNELS, distance, type Plane } from './descriptor'
import type { Leap, LeapPlace } from './leap'
import { type Block, type BlockGrid, blockAt, gridOf, Pair, Ranged, unmatched, WORST_BLOCKS } from './matching'
import { deviation, type Series } from './series'

/**
 * A leap leaves this many times the residual of every other pair, of which there are `pairs`: of few the greatest says less of what
 * else there may be. Both constants are measured on bench/corpus.
 */
const margin = (pairs: number): number => 1.15 + 0.5 * (5 / pairs) ** 1.5
/** It lies this many robust deviations above their median. The deviation is at least this share of the median. */
const DEVIATIONS = 4
const MIN_DEVIATION = 0.02
/** Pairs within two frames of it are no further from the median than this share of its own way. */
const CALM = 0.25
/** Residuals below this are seen by nobody (root mean square over a block, OKLab). */
const NOTICED = 0.012
/** With fewer pairs that differ nothing is known of what is usual. */
const MIN_PAIRS = 8
/** A pair is first looked at for blocks that leave more than this share of the second greatest residual. */
const NEARLY = 0.9
/** Where no more pairs differ than these, the others may only look held beside them. */
const MAX_BESIDE_HELD = 2
/** Frames of fewer blocks a side are all edge. */
const MIN_BLOCKS = 4
/** Median and deviation are taken from at most this many pairs, spread over the loop. */
const PAIRS_SAMPLED = 48
/** The mean picture, which tells what is usual at a place, is taken from at most this many frames. */
const FRAMES_SAMPLED = 24
/** A place begins where a block's residual is at least this share of the worst one, and goes on to blocks beside it of the lesser share. */
const PLACE_SHARE = 0.5
const BESIDE_SHARE = 0.2
/** At most this many places are named. */
const MAX_PLACES = 4
/** Something is at a place in one frame and not in the other where one differs from the usual this many times as much. */
const PRESENT = 1.25

/**
 * The one pair of frames between which something small leaps in a picture that lives; null where there is none. Blocks of a frame are
 * matched with the frame before and after it within reach: what moves by less leaves little, whatever its size, while what leaps,
 * appears, vanishes or is reset in tint, size or opacity leaves itself. A leap is beyond every other pair by a margin and beyond their
 * spread (see docs/architecture/judging.md, "Something small that leaps"). It does not depend on where frame 0 lies.
 * @param isExplained pairs that are known to differ for another reason, such as a blank frame, by their first frame
 */
export function leapOf(series: Series, isExplained: (n: number) => boolean = () => false): Leap | null {
  const { N, same } = series
  const plane = (n: number) => series.frame(n)[0]
  const grid = gridOf(plane(0))
  const unexplained = Array.from({ length: N }, (_, n) => n).filter((n) => !isExplained(n))
  const moving = unexplained.filter((n) => !same[n])
  // Beside one leap all that goes on in a picture may look held; what ticks moves in a few steps of its own.
  const pairs = moving.length <= MAX_BESIDE_HELD ? unexplained : moving
  if (pairs.length < MIN_PAIRS || Math.min(grid.across, grid.down) < MIN_BLOCKS) return null
  const bounds = new Map(pairs.map((n) => [n, unmatched(plane(n), plane(n + 1), grid)]))
  const bound = (n: number) => bounds.get(n) as number
  const byBound = [...pairs].sort((a, b) => bound(b) - bound(a))
  if (bound(byBound[0]) < NOTICED) return null

  let ranged: { readonly n: number; readonly of: Ranged } | null = null
  const rangedAt = (n: number): Ranged => (ranged?.n === n % N ? ranged.of : new Ranged(plane(n), grid))
  const pairAt = (n: number): Pair => {
    const before = rangedAt(n)
    const after = new Ranged(plane(n + 1), grid)
    ranged = { n: (n + 1) % N, of: after }
    return new Pair(before, after, grid)
  }
  let most = { n: -1, value: 0 }
  let second = 0
  const seen = new Set<number>()
  for (const n of [...byBound.slice(0, 2), ...pairs]) {
    if (seen.has(n) || bound(n) <= second) continue
    seen.add(n)
    const pair = pairAt(n)
    // Most pairs are known to leave less than the second one does without an exact figure.
    if (pair.value(NEARLY * second) <= second) continue
    const value = pair.value()
    if (value > most.value) {
      second = most.value
      most = { n, value }
    } else second = Math.max(second, value)
  }
  if (most.value < NOTICED || most.value <= margin(pairs.length) * second) return null

  const others = othersFrom(most.n, pairs, N)
  const values = sampleOf(others).map((n) => pairAt(n).value())
  const middle = median(values)
  const spread = Math.max(deviation(values, middle), MIN_DEVIATION * middle)
  if (most.value <= middle + DEVIATIONS * spread) return null

  // Beside a leap all is as usual; what flickers or goes fast does so for several frames.
  const beside = [-2, -1, 1, 2].map((by) => pairAt((most.n + by + N) % N).value())
  if (greatest(beside) > middle + CALM * (most.value - middle)) return null

  const pair = pairAt(most.n)
  const residuals = pair.residuals()
  const fine = residuals.map((left, index) => (left < BESIDE_SHARE * most.value ? 0 : pair.finely(index)))
  const worst = [...fine].sort((a, b) => b - a).slice(0, WORST_BLOCKS)
  if (worst.reduce((sum, left) => sum + left, 0) / WORST_BLOCKS <= second) return null
  if (isAllThatMoves(series, most.n, pairs, grid, fine)) return null
  return { frame: most.n, ratio: most.value / second, ...whatLeaps(series, most.n, grid, fine) }
}

/** The other pairs, in the order in which they follow: it does not matter where frame 0 lies. */
const othersFrom = (n: number, pairs: readonly number[], N: number): number[] =>
  pairs.filter((k) => k !== n).sort((a, b) => ((a - n + N) % N) - ((b - n + N) % N))

function sampleOf(pairs: readonly number[]): number[] {
  const every = Math.ceil(pairs.length / PAIRS_SAMPLED)
  return pairs.filter((_, i) => i % every === 0)
}

/**
 * The leap is all that moves if at least this share of the changes in any other pair lies in it or within this
 * distance, px.
 */
const ALL_THAT_MOVES = 0.65
const NEAR = 8
/** Smallest ratio of its step to the largest other step at which something that is all that moves still counts as a leap. */
const LEAP = 1.5

/**
 * Whether what leaps is all that moves, and its step no larger than a motion of changing speed makes: where it goes further than blocks are matched,
 * or fades, residuals are its own speed. Whether the picture as a whole jumps is for its steps to say.
 */
function isAllThatMoves(
  series: Series,
  n: number,
  pairs: readonly number[],
  grid: BlockGrid,
  fine: readonly number[],
): boolean {
  const plane = (k: number) => series.frame(k)[0]
  const { width, height } = plane(0)
  const worst = Math.max(...fine)
  const inside = new Set<number>()
  for (const [index, left] of fine.entries()) {
    if (left < PLACE_SHARE * worst) continue
    const { x, y, w, h } = blockAt(plane(0), grid, index)
    for (let row = Math.max(0, y - NEAR); row < Math.min(height, y + h + NEAR); row++)
      for (let column = Math.max(0, x - NEAR); column < Math.min(width, x + w + NEAR); column++)
        inside.add(CHANNELS * (row * width + column))
  }
  const region = Uint32Array.from(inside)
  const everything = Uint32Array.from({ length: width * height }, (_, i) => CHANNELS * i)
  const squares = (k: number, of: Uint32Array) => distance(plane(k), plane(k + 1), of) ** 2 * of.length
  const others = othersFrom(n, pairs, series.N)
  const shares = sampleOf(others).map((k) => squares(k, region) / Math.max(1e-12, squares(k, everything)))
  if (median(shares) < ALL_THAT_MOVES) return false
  const steps = others.map((k) => distance(plane(k), plane(k + 1), region))
  return distance(plane(n), plane(n + 1), region) <= LEAP * greatest(steps)
}

/** Blocks that hang together, and how far they differ in all. */
interface Cluster {
  readonly blocks: readonly number[]
  readonly weight: number
}

function clustersOf(fine: readonly number[], { across, down }: BlockGrid): Cluster[] {
  const worst = Math.max(...fine)
  const left = new Set(fine.flatMap((value, index) => (value >= BESIDE_SHARE * worst ? [index] : [])))
  const clusters: Cluster[] = []
  for (const first of [...left]) {
    if (fine[first] < PLACE_SHARE * worst || !left.delete(first)) continue
    const blocks = [first]
    for (const index of blocks)
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const column = (index % across) + dx
          const row = Math.floor(index / across) + dy
          const near = row * across + column
          if (column >= 0 && column < across && row >= 0 && row < down && left.delete(near)) blocks.push(near)
        }
    clusters.push({ blocks, weight: blocks.reduce((sum, index) => sum + fine[index], 0) })
  }
  return clusters.sort((a, b) => b.weight - a.weight).slice(0, MAX_PLACES)
}

/** Mean of the frames, of which a sample is enough to tell what usually stands at a place. */
function meanPlane({ N, frame }: Series): Plane {
  const every = Math.ceil(N / FRAMES_SAMPLED)
  const { width, height, values } = frame(0)[0]
  const mean = new Float32Array(values.length)
  let count = 0
  for (let n = 0; n < N; n += every, count++) {
    const other = frame(n)[0].values
    for (let i = 0; i < mean.length; i++) mean[i] += other[i]
  }
  return { width, height, values: mean.map((sum) => sum / count) }
}

/** Kind and places of a leap after frame `n`, the places by their summed residual. */
function whatLeaps(
  series: Series,
  n: number,
  grid: BlockGrid,
  fine: readonly number[],
): Pick<Leap, 'change' | 'places'> {
  const usual = meanPlane(series)
  const before = series.frame(n)[0]
  const after = series.frame(n + 1)[0]
  const clusters = clustersOf(fine, grid).map(({ blocks }) => {
    const boxes = blocks.map((index) => blockAt(usual, grid, index))
    const far = (plane: Plane) => boxes.reduce((sum, box) => sum + squaresApart(plane, usual, box), 0)
    const was = Math.sqrt(far(before))
    const is = Math.sqrt(far(after))
    return { place: placeOf(boxes, usual), leaves: was > PRESENT * is, arrives: is > PRESENT * was }
  })
  const leaving = clusters.filter(({ leaves }) => leaves)
  const arriving = clusters.filter(({ arrives }) => arrives)
  const from = leaving[0]
  const to = arriving[0]
  if (from && to) return { change: 'moves', places: [from.place, to.place] }
  const change = from ? 'vanishes' : to ? 'appears' : 'changes'
  return { change, places: clusters.map(({ place }) => place) }
}

function squaresApart(a: Plane, b: Plane, { x, y, w, h }: Block): number {
  let sum = 0
  for (let row = y; row < y + h; row++)
    for (let i = CHANNELS * (row * a.width + x), end = i + CHANNELS * w; i < end; i++)
      sum += (a.values[i] - b.values[i]) ** 2
  return sum
}

function placeOf(boxes: readonly Block[], { width, height }: Plane): LeapPlace {
  const x = Math.min(...boxes.map((box) => box.x))
  const y = Math.min(...boxes.map((box) => box.y))
  const right = Math.max(...boxes.map((box) => box.x + box.w))
  const bottom = Math.max(...boxes.map((box) => box.y + box.h))
  return { x: x / width, y: y / height, width: (right - x) / width, height: (bottom - y) / height }
}
