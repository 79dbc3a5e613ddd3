import { median } from '../statistics'
import { variation } from './descriptor'
import { type Series, STILL, turnedSeries } from './series'

/** The steps at the seam lie under this share of the median. */
const SLOW = 0.3
/**
 * Steps between these shares of the fast ones belong to a transition; with the given number of them on either side it
 * is smooth, not a stop.
 */
const BETWEEN = [0.1, 0.75] as const
const SMOOTH = 2
/** Frames beside the slowest step show at least this share of what is usual. */
const LITTLE = 0.5
/** Elsewhere no step is so slow: under one and a half of those at the seam, nor under most of what slow is. */
const NOWHERE_ELSE = { seam: 1.5, slow: 0.7 }

/**
 * The last frame before the slowest step of a motion that slows down there and goes on, as it does nowhere else in the loop; null where there
 * is none. Of steps that change nothing, which are all the slowest, the one across the seam is taken.
 * @param middle the median of the steps that move
 */
export function slowestStep(series: Series, middle: number): number | null {
  const { N, steps } = series
  const s = (n: number) => steps[(n + N) % N]
  const slow = Array.from({ length: N }, (_, n) => n)
    .filter((n) => s(n) <= Math.min(s(n - 1), s(n + 1)) + STILL)
    .filter((n) => slowsAtSeam(turnedSeries(series, n + 1), middle))
  if (slow.length === 0) return null
  const drawn = series.frames.map((each) => variation(each[0]))
  const little = LITTLE * median(drawn)
  // An object that grows from nothing changes little there, however fast it moves.
  const full = slow.filter((n) => Math.max(drawn[n], drawn[(n + 1) % N]) >= little)
  const least = Math.min(...full.map(s))
  const [last] = full.filter((n) => s(n) <= least + STILL).sort((a, b) => b - a)
  return last ?? null
}

/**
 * Steps that shrink smoothly towards the seam from both sides, to a slowness that the loop has nowhere else, in a motion
 * that goes on: one that turns back there shows the same on both sides. An abrupt stop is a hold, which is meant.
 * @param middle the median of the steps inside that move
 */
function slowsAtSeam(series: Series, middle: number): boolean {
  const { N, steps, d, exponent } = series
  if (N < 12) return false
  const s = (n: number) => steps[(n + N) % N]
  const limit = SLOW ** exponent * middle
  const slowest = Math.max(s(-1), Math.min(s(-2), s(0)))
  if (slowest > limit) return false
  // Steps outwards from the seam: after it s(0), s(1) …, before it s(−2), s(−3) …
  const sides = [(k: number) => s(k), (k: number) => s(-2 - k)]
  const fast = [...steps].sort((a, b) => a - b)[Math.floor(0.8 * (N - 1))]
  const reach = sides.map((side) => {
    let k = 0
    while (k < N / 2 && side(k) <= limit) k++
    return k
  }) as [number, number]
  const least = Math.max(3, Math.round(N / 12))
  const smooth = sides.every((side, i) => {
    const until = Math.max(least, reach[i])
    for (let k = 0; k < until; k++) if (side(k + 1) < side(k) * 0.9 - STILL) return false
    let between = 0
    for (let k = 0; k < N / 2; k++) {
      if (side(k) > BETWEEN[0] ** exponent * fast && side(k) < BETWEEN[1] * fast) between++
      else if (side(k) >= BETWEEN[1] * fast) break
    }
    return between >= SMOOTH
  })
  if (!smooth) return false
  const after = Math.max(least, reach[0] + 1)
  const before = -1 - Math.max(least, reach[1] + 1)
  if (d(before, after) < Math.max(d(before, 0), d(-1, after))) return false
  const slow = Math.max(NOWHERE_ELSE.seam * slowest, NOWHERE_ELSE.slow * limit)
  for (let n = after + 1; n < N + before - 1; n++) if (s(n) < slow) return false
  return true
}
