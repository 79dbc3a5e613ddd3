import { median } from '../statistics'
import { CHANNELS } from './descriptor'
import { type Series, STILL } from './series'

/** Which steps hold the frame: those that change nothing, but for where a motion turns back between two frames, or is slow. */
export const heldSteps = (series: Series): boolean[] =>
  series.same.map((same, n) => same && !isTurningPoint(series, n) && !(isAlone(series, n) && isSlowMoment(series, n)))

/** Whether the steps on both sides move: a pause of several frames is no moment. */
const isAlone = ({ N, same }: Series, n: number): boolean => !same[(n + 1) % N] && !same[(n + N - 1) % N]

/** A slow step changes the picture along the direction of its neighbours; the noise left over a held frame does not. */
const ALONG = 0.3
/** A change of a single 8-bit step in a few pixels; less is none. */
const FAINTEST = STILL / 4

/**
 * A step that changes little, and what it changes is the motion before or after it: |cos| between the changes, by the law
 * of cosines on the distances of three frames. Over a held frame noise of a share ε of the motion gives 0.7 ε, and ε is
 * under a quarter.
 */
function isSlowMoment(series: Series, n: number): boolean {
  const { d } = series
  const step = d(n, n + 1, 0)
  // Dither changes single pixels by much, and nothing as soon as it is seen less sharply.
  if (Math.min(step, d(n, n + 1)) < FAINTEST) return false
  const along = (i: number, j: number, beside: number) =>
    Math.abs((d(i, j, 0) ** 2 - step ** 2 - beside ** 2) / (2 * step * Math.max(beside, STILL)))
  if (along(n - 1, n + 1, d(n - 1, n, 0)) > ALONG || along(n, n + 2, d(n + 1, n + 2, 0)) > ALONG) return true
  return isConcentrated(series, n, step)
}

/**
 * A small shift of an edge changes single pixels by at least `least`, in OKLab, and by at least `times` the mean step.
 */
const AT_EDGES = { least: 0.02, times: 6 }

/** Noise lies everywhere and is small; what moves a little changes much, at its edges alone. */
function isConcentrated({ frame }: Series, n: number, step: number): boolean {
  const a = frame(n)[0].values
  const b = frame(n + 1)[0].values
  let most = 0
  for (let i = 0; i < a.length; i += CHANNELS) {
    let sum = 0
    for (let c = 0; c < CHANNELS; c++) sum += (a[i + c] - b[i + c]) ** 2
    most = Math.max(most, sum)
  }
  return most > Math.max(AT_EDGES.least, AT_EDGES.times * step) ** 2
}

/**
 * A motion that turns back half-way between two frames shows them alike without holding either. It slows down towards
 * them on both sides, the frames on both sides are alike too, and its steps grow as those of x = |t|ᵖ at half frames do:
 * 1 : 2 : 3 where p = 2, against 1 : 3 : 5 where the frame of the turn is shown twice (each to the power e).
 */
function isTurningPoint({ N, steps, d, exponent: e }: Series, n: number): boolean {
  const s = (k: number) => (steps[(n + k + 3 * N) % N] + steps[(n - k + 3 * N) % N]) / 2
  if (N < 8 || Math.min(steps[(n + 1) % N], steps[(n + N - 1) % N]) < STILL) return false
  if (d(n - 1, n + 2) > 0.5 * s(1) || s(1) > 0.8 * s(2)) return false
  const second = s(2) / s(1)
  const third = s(3) / s(2)
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
    const next = starts[(i + 1) % starts.length]
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
  const held = heldSteps(series)
  const holds = holdsOf(held)
  const times = new Map<number, number>()
  for (const { length } of holds) times.set(length, (times.get(length) ?? 0) + 1)
  // With several faults of a kind the long ones are still few beside what is usual.
  const few = Math.max(1, Math.floor(holds.length / 12))
  const isUsual = (length: number) => (times.get(length) ?? 0) > few && (times.get(length) ?? 0) >= 2
  const moves = held.flatMap((each, n) => (each ? [] : [n]))
  return holds
    .filter(({ length }) => !isUsual(length) && isUsual(length - 1))
    .filter((hold) => !isSlowDown(series, moves, hold))
    .map(({ start, length }) => (start + length > N ? N - 1 : start + length - 1))
    .sort((a, b) => a - b)
}

/** Steps get smaller towards a slow moment: to under this share from one to the next. */
const SLOWING = 0.7
/** A passage is slow where steps beside it are under this share of what moves usually: a frame that is shown again there shows in nothing. */
const SLOW_PASSAGE = 0.25
/** Nor does it where all changes by a single step of 8 bits: it may as well not. */
const ONE_STEP = 4 * STILL
/** At most this many of the largest steps may belong to faults: two of a blank frame, one of a jump. */
const FAULTY_STEPS = 3
/** Steps on both sides of a turn are alike to within this share. */
const ALIKE = 0.25

/**
 * Whether a motion slows down towards what looks like a hold, and speeds up after it, or turns back there: it passes through rest, and no
 * frame is shown again. Where the frame of a turn is shown twice, steps grow as 1 : 3 : 5, the same to both sides.
 */
function isSlowDown({ N, steps, d, exponent }: Series, moves: readonly number[], { start, length }: Hold): boolean {
  const place = (step: number) => moves.indexOf((step + N) % N)
  const move = (i: number) => steps[moves[(i + moves.length) % moves.length]]
  const into = place(start - 1)
  const out = place(start + length - 1)
  const before = [move(into), move(into - 1)] as const
  const after = [move(out), move(out + 1)] as const
  const nearest = (before[0] + after[0]) / 2
  // A state shown for several frames each time, such as a light that goes on and off, comes back without turning.
  const turns = length === 2 && d(start - 1, start + length) < 0.5 * nearest
  const slows = before[0] < SLOWING * before[1] && after[0] < SLOWING * after[1]
  // Neither a slow drift between ticks nor a blank frame and a jump beside them is what is usual.
  const sizes = moves.map((n) => steps[n]).sort((a, b) => a - b)
  const large = sizes[Math.max(0, sizes.length - 1 - FAULTY_STEPS)]
  const usual = median(sizes.filter((size) => size >= large / 4))
  const least = Math.min(before[0], after[0])
  if (!turns) return slows || least < Math.max(ONE_STEP, SLOW_PASSAGE * usual)
  const alike = (k: 0 | 1) => Math.abs(before[k] - after[k]) < ALIKE * Math.max(before[k], after[k])
  const doubled = alike(0) && alike(1) && before[1] + after[1] > 2 * nearest * Math.sqrt(6) ** exponent
  return !doubled
}
