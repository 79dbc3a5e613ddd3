import { median } from '../statistics'
import { type Series, STILL } from './series'

/** Held steps lie this many times under the least of those that move: the widest gap of the sorted steps. */
const GAP = 4
/** A held step is at most this share of what usually moves. */
const HELD = 0.25

/**
 * Which steps hold the frame: s = 0, or the lower side of the widest gap in the sorted steps where it is wide enough,
 * so that the noise of a lossy encoder over a repeated frame is told from slow motion.
 */
export function heldSteps({ N, fine, d }: Pick<Series, 'N' | 'fine' | 'd'>): boolean[] {
  const sorted = [...fine].map((step) => Math.max(step, STILL / 4)).sort((a, b) => a - b)
  let [widest, threshold] = [GAP, STILL]
  for (let i = 0; i + 1 < N; i++) {
    const [low, high] = [sorted[i] as number, sorted[i + 1] as number]
    if (high / low > widest && low < HELD * median(sorted.slice(i + 1)))
      [widest, threshold] = [high / low, Math.sqrt(low * high)]
  }
  const s = (n: number) => fine[((n % N) + N) % N] as number
  return fine.map((step, n) => step < Math.max(threshold, STILL) && !isTurningPoint(s, (i, j) => d(i, j, 0), n))
}

/**
 * A motion that turns back between two frames shows them alike without holding either: it slows down towards them on
 * both sides, and the frames on both sides are alike too.
 */
function isTurningPoint(s: (n: number) => number, d: (i: number, j: number) => number, n: number): boolean {
  const [before, after] = [s(n - 1), s(n + 1)]
  if (before < STILL || after < STILL) return false
  const slows = before < 0.75 * s(n - 2) && after < 0.75 * s(n + 2)
  return slows && d(n - 1, n + 2) < 0.5 * Math.max(before, after)
}

interface Hold {
  /** The first of the frames that show one picture. */
  readonly start: number
  readonly length: number
}

/** How long each picture is shown, in frames, round the ring; none where a picture fills it. */
export function holdsOf(held: readonly boolean[]): Hold[] {
  const N = held.length
  const starts = held.flatMap((each, n) => (each ? [] : [(n + 1) % N])).sort((a, b) => a - b)
  return starts.map((start, i) => {
    const next = starts[(i + 1) % starts.length] as number
    return { start, length: (next - start + N) % N || N }
  })
}

/**
 * Frames that repeat the one before them, judged by the cadence of the holds: a loop on ones shows each picture for one
 * frame, one on twos for two, one that ticks has its own lengths. A picture is shown a frame too long where its length
 * occurs once and is one more than a length that occurs again and again. At the seam the last frame is the one too many.
 */
export function repeatedFrames(series: Series): number[] {
  const { N } = series
  if (N < 5) return []
  const holds = holdsOf(heldSteps(series))
  const times = new Map<number, number>()
  for (const { length } of holds) times.set(length, (times.get(length) ?? 0) + 1)
  // With several faults of a kind the long ones are still few beside what is usual.
  const few = Math.max(1, Math.floor(holds.length / 12))
  const isUsual = (length: number) => (times.get(length) ?? 0) > few && (times.get(length) ?? 0) >= 2
  return holds
    .filter(({ length }) => !isUsual(length) && isUsual(length - 1))
    .map(({ start, length }) => (start + length > N ? N - 1 : start + length - 1))
    .sort((a, b) => a - b)
}
