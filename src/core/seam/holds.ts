import { type Series, STILL } from './series'

/** Which steps hold the frame: those that change nothing, but for where a motion turns back between two frames, or is slow. */
export const heldSteps = (series: Series): boolean[] =>
  series.same.map((same, n) => same && !isTurningPoint(series, n) && !isSlowMoment(series, n))

/** What a slow step changes lies along what its neighbours change; what is left of noise over a held frame does not. */
const ALONG = 0.3

/**
 * A step that changes little, and what it changes is the motion before or after it: |cos| between the changes, by the law
 * of cosines on the distances of three frames. Over a held frame noise of a share ε of the motion gives 0.7 ε, and ε is
 * under a quarter.
 */
function isSlowMoment({ d }: Series, n: number): boolean {
  const step = d(n, n + 1, 0)
  if (step < STILL) return false
  const along = (i: number, j: number, beside: number) =>
    Math.abs((d(i, j, 0) ** 2 - step ** 2 - beside ** 2) / (2 * step * Math.max(beside, STILL)))
  return along(n - 1, n + 1, d(n - 1, n, 0)) > ALONG || along(n, n + 2, d(n + 1, n + 2, 0)) > ALONG
}

/**
 * A motion that turns back half-way between two frames shows them alike without holding either. It slows down towards
 * them on both sides, the frames on both sides are alike too, and its steps grow as those of x = |t|ᵖ at half frames do:
 * 1 : 2 : 3 where p = 2, against 1 : 3 : 5 where the frame of the turn is shown twice (each to the power e).
 */
function isTurningPoint({ N, steps, d, exponent: e }: Series, n: number): boolean {
  const s = (k: number) => ((steps[(n + k + 3 * N) % N] as number) + (steps[(n - k + 3 * N) % N] as number)) / 2
  if (N < 8 || Math.min(steps[(n + 1) % N] as number, steps[(n + N - 1) % N] as number) < STILL) return false
  if (d(n - 1, n + 2) > 0.5 * s(1) || s(1) > 0.8 * s(2)) return false
  const [second, third] = [s(2) / s(1), s(3) / s(2)]
  // For any p, halves give a third ratio of about 1.5·(second/2)^0.62, a turn shown twice one that is a seventh less; and
  // differences go with the way to the power e.
  return second < Math.sqrt(6) ** e || third > (0.93 * 1.5) ** e * (second / 2 ** e) ** 0.62
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
