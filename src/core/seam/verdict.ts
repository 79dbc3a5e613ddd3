import type { Picture } from '../image'
import type { Verdict } from '../media'
import { greatest, leapsAtEnd, median } from '../statistics'
import { blankFrames } from './blank'
import { describeFrame, type JudgedFrame, judgedSide, seenOn } from './descriptor'
import { GROUND_NAMES, GROUNDS, type Ground, type GroundName } from './grounds'
import { heldSteps, repeatedFrames } from './holds'
import type { Leap } from './leap'
import { leapOf } from './leaps'
import { shorterLoop } from './patterns'
import { regionSteps } from './regions'
import { deviation, type Series, STILL, seriesOf, turnedSeries } from './series'
import { slowestStep } from './slowing'
import { isUniform, strayFrames } from './stray'
import { centreJump, tellsNothing } from './too-few'

export type { Verdict }

/** The seam of a loop as its pictures show it. */
export interface SeamReport {
  readonly verdict: Verdict
  /** sᵢ = d(i, i+1 mod N); the last one is the seam step. */
  readonly steps: readonly number[]
  /** The same steps by region of the picture, nine each. */
  readonly regions: readonly (readonly number[])[]
  readonly seamStep: number
  /** Step expected at the seam, from the steps beside it. */
  readonly expected: number
  /** seamStep ÷ expected. */
  readonly ratio: number
  /** The frame at fault, counted from 0, or null. Of a jump or a slow step the last frame before it. */
  readonly frame: number | null
  /** True where the frame at fault is out of place itself, rather than the step after it. */
  readonly isStray: boolean
  /** The leap of a loop that jumps, with its places in the frame; null where no single leap was found. */
  readonly leap: Leap | null
  /** The verdict over each of the grounds that a page may have; the same over all where every frame is opaque. */
  readonly grounds: Readonly<Record<GroundName, Verdict>>
}

/** How far the seam step must stand out of its neighbours, of all others, and in deviations. */
const JUMP = { beside: 1.2, largest: 1.1, deviations: 6, leastDeviation: 0.02 }
/**
 * Where the speed varies much, how far it must stand out of its neighbours alone, two to either side, and of how any other does; in a loop whose steps follow
 * each other smoothly, five in six of them under 1.15 of the larger neighbour. Of steps that jitter some always stand out, and so do some of 8 bits
 * where nearly nothing moves: it is larger than most.
 */
const SUDDEN = { beside: 1.4, reach: 2, others: 1.3, smooth: 1.15 }
/**
 * With at most this many moving steps only the plainest fault is named: the seam's step is over one and a half times
 * every other.
 */
const FEW = 5
/** Where nothing else moves, what is just noticed as a difference in OKLab is under this: an encoder's noise, not a jump. */
const NOTICED = 0.01

/**
 * How far the seam's step must stand above the largest of a few others: by a tenth, and by more the fewer there are.
 */
const margin = (moves: number): number => JUMP.largest + 0.4 * (FEW / moves) ** 1.5

/**
 * The verdict on the seam of N pictures of one size, which repeat. Steps are judged at the scale at which the
 * interior best tells near from far, with median and median absolute deviation in place of fixed numbers.
 * @throws RangeError for no pictures, or pictures of different sizes.
 */
export function judgeSeam(pictures: readonly Picture[]): SeamReport {
  const [first] = pictures
  if (first && pictures.some(({ width, height }) => width !== first.width || height !== first.height))
    throw new RangeError('the frames of a loop have one size')
  return judgeDescribed(pictures.map((picture) => describeFrame(picture)))
}

/** judgeSeam for `length` frames, each drawn on demand, so that only one is held at a time. */
export async function judgeDrawn(length: number, draw: (frame: number) => Promise<Picture>): Promise<SeamReport> {
  const frames: JudgedFrame[] = []
  for (let n = 0; n < length; n++) frames.push(describeFrame(await draw(n), judgedSide(length)))
  return judgeDescribed(frames)
}

/** judgeSeam for frames that have been described already, one at a time. */
export const judgeDescribed = (frames: readonly JudgedFrame[], ground?: Ground): SeamReport =>
  judgeOnGrounds(frames, ground).faults.seam

/** The ground on which a loop is judged, and what is found there. */
interface Judged {
  readonly series: Series
  readonly faults: SeriesFaults & { readonly seam: SeamReport }
}

/**
 * Judges frames over the ground that is asked for; else over white, or, where nothing is seen there, over the first of the others that
 * shows something. The verdict over each common ground stands beside it.
 */
export function judgeOnGrounds(frames: readonly JudgedFrame[], ground?: Ground): Judged {
  const judgeOn = (each: Ground) => {
    const series = seriesOf(seenOn(frames, each))
    return { series, faults: judgeSeries(series) }
  }
  const white = judgeOn(GROUNDS.white)
  const transparent = frames.some(({ clear }) => clear !== null)
  const over = Object.fromEntries(
    GROUND_NAMES.map((name) => [name, transparent && name !== 'white' ? judgeOn(GROUNDS[name]) : white]),
  ) as Record<GroundName, ReturnType<typeof judgeOn>>
  const seen = GROUND_NAMES.find((name) => over[name].faults.seam.verdict !== 'still') ?? 'white'
  const main = ground && transparent ? judgeOn(ground) : over[seen]
  // Where nothing is seen at the size at which frames are judged, what is small may move in them.
  const small = main.faults.seam.verdict === 'still' ? judgeContrast(frames) : null
  if (small) {
    const { verdict } = small.faults.seam
    return {
      ...small,
      faults: {
        ...small.faults,
        seam: { ...small.faults.seam, grounds: { white: verdict, black: verdict, grey: verdict } },
      },
    }
  }
  const grounds = Object.fromEntries(
    GROUND_NAMES.map((name) => [name, over[name].faults.seam.verdict]),
  ) as SeamReport['grounds']
  return { ...main, faults: { ...main.faults, seam: { ...main.faults.seam, grounds } } }
}

/** Frames judged by the contrast of their cells; null where that was not looked at, or does not change either. */
function judgeContrast(frames: readonly JudgedFrame[]) {
  const contrasts = frames.flatMap(({ contrast }) => (contrast ? [contrast] : []))
  if (contrasts.length < frames.length) return null
  const series = seriesOf(contrasts)
  const faults = judgeSeries(series)
  return faults.seam.verdict === 'still' ? null : { series, faults }
}

/** Everything that is a fault of the pictures, and the verdict that names the gravest. No verdict depends on where frame 0 lies. */
export interface SeriesFaults {
  readonly seam: Omit<SeamReport, 'grounds'>
  readonly blank: readonly number[]
  /** Frames that do not belong and are not blank. */
  readonly stray: readonly number[]
  readonly repeated: readonly number[]
  /** The last frame before the picture jumps; null where it does not. */
  readonly jump: number | null
  /** The last frame before the slowest step of a motion that slows down and goes on; null where there is none. */
  readonly hesitation: number | null
  /** Length of the shorter loop that lies inside, which was judged in place of the whole one. */
  readonly period: number | null
}

/** Faults of a series, and its verdict by the order blank frame, jumps, repeats a frame, hesitates. */
function judgeSeries(series: Series): SeriesFaults {
  const { N, steps } = series
  const s = (n: number) => steps[(n + 2 * N) % N]
  const seamStep = s(-1)
  const expected = expectedAt(series, N - 1)
  const regions = regionSteps(series)
  const report = (
    verdict: Verdict,
    frame: number | null = null,
    { leap = null, isStray = false }: { readonly leap?: Leap | null; readonly isStray?: boolean } = {},
  ) => ({
    verdict,
    steps,
    regions,
    seamStep,
    expected,
    ratio: ratioOf(seamStep, expected),
    frame,
    isStray,
    leap,
  })
  const none = { blank: [], stray: [], repeated: [], jump: null, hesitation: null, period: null }
  if (series.same.every(Boolean) && greatest(steps) < STILL) return { seam: report('still'), ...none }

  const period = shorterLoop(series)
  const inner = period === null ? null : judgeSeries(seriesOf(series.frames.slice(0, period)))
  /** A frame of the shorter loop, in its last round. */
  const inLastRound = (frame: number | null) => (frame === null || period === null ? null : frame + N - period)
  const misplaced = strayFrames(series)
  const plain = blankFrames(series)
  const blank = [...new Set([...plain, ...misplaced.filter((n) => isUniform(series, n))])].sort((a, b) => a - b)
  const stray = misplaced.filter((n) => !blank.includes(n))
  /** Whether a step leads to or from a frame that is named already. */
  const isExplained = (n: number) => [...blank, ...stray].some((frame) => frame === n || frame === (n + 1) % N)
  const few = (period ?? N) <= FEW
  const leap = few || inner ? (inner?.seam.leap ?? null) : leapOf(series, isExplained)
  const jump =
    inner && !few ? inLastRound(inner.jump) : (jumpIn(series, isExplained) ?? leap?.frame ?? centreJump(series))
  const moving = steps.filter((step) => step > STILL)
  const hesitation =
    jump !== null ? null : (slowestStep(series, median(moving)) ?? inLastRound(inner?.hesitation ?? null))
  const repeated = repeatedFrames(series).filter(
    (n) => !(hesitation !== null && restsAt(series, n) && isNear(n, hesitation, N)),
  )
  const seen = leap && jump !== null && (leap.frame === jump || inner) ? { ...leap, frame: jump } : null
  /** The gravest fault decides. */
  const gravest = () => {
    if (blank.length > 0) return report('blank-frame', blank[0])
    if (stray.length > 0) return report('jumps', stray[0], { isStray: true })
    if (jump !== null) return report('jumps', jump, { leap: seen })
    if (repeated.length > 0) return report('repeats-a-frame', repeated.includes(N - 1) ? N - 1 : repeated[0])
    if (hesitation !== null) return report('hesitates', hesitation)
    return report(tellsNothing(series) ? 'too-few-frames' : 'closes')
  }
  return { seam: gravest(), blank, stray, repeated, jump, hesitation, period }
}

/** Step expected at a step, from those beside it: their median, two on either side. */
export function expectedAt({ N, steps }: Pick<Series, 'N' | 'steps'>, n: number): number {
  const s = (k: number) => steps[(n + k + 2 * N) % N]
  if (N > 4) return median([s(-2), s(-1), s(1), s(2)])
  return N > 1 ? median(steps.filter((_, i) => i !== n)) : 0
}

/** A step by what is expected of it: 1 where both are nothing. */
export const ratioOf = (step: number, expected: number): number =>
  expected > 0 ? step / expected : step > 0 ? Infinity : 1

/** Whether two frames lie next to each other on a ring of N, or are one. */
const isNear = (a: number, b: number, N: number): boolean => {
  const apart = Math.abs(a - b)
  return Math.min(apart, N - apart) <= 1
}

/** Whether the frame stands beside steps that are hardly larger than its own: a motion comes to rest there, no frame is shown again. */
function restsAt({ N, steps }: Series, n: number): boolean {
  const s = (k: number) => steps[(n + k + N) % N]
  return Math.min(s(-2), s(0), s(1)) < 4 * Math.max(STILL, Math.min(s(-1), s(0)))
}

/**
 * The last frame before a step that is out of family; null where there is none. Only steps that stand out in one way or another are looked
 * at closely, each as if the seam lay there.
 */
function jumpIn(series: Series, isExplained: (n: number) => boolean): number | null {
  const { N, steps, d } = series
  const held = heldSteps(series)
  const sharp = Array.from({ length: N }, (_, n) => d(n, n + 1, 0))
  const moves = Array.from({ length: N }, (_, n) => n).filter((n) => !held[n])
  const outstanding = (_: number, k: number) => {
    const at = (i: number) => steps[moves[(k + i + 2 * moves.length) % moves.length]]
    return at(0) / Math.max(at(-2), at(-1), at(1), at(2), STILL)
  }
  const most = (values: readonly number[], of: readonly number[]) => of[values.indexOf(greatest(values))]
  const all = Array.from({ length: N }, (_, n) => n)
  const candidates = [
    most(steps, all),
    most(sharp, all),
    ...(moves.length > 0 ? [most(moves.map(outstanding), moves)] : []),
  ]
  for (const n of new Set(candidates)) {
    if (isExplained(n)) continue
    const heldFrom = [...held.slice(n + 1), ...held.slice(0, n + 1)]
    if (jumpsAtSeam(turnedSeries(series, n + 1), heldFrom)) return n
  }
  return null
}

/**
 * The largest step that the two on either side of the seam lead up to, where a motion gets faster towards it as it did before: what swings fast is
 * fastest in one frame, and does not jump there.
 */
const peakOf = (s: (k: number) => number): number =>
  Math.max(s(-2) + Math.max(0, s(-2) - s(-3)), s(0) + Math.max(0, s(0) - s(1)))

/**
 * The seam step is out of family. It is over one and a half of every other, seen sharply or at the scale that is judged; or, by the
 * pictures that differ, so that those on twos and those that tick are seen as what moves from picture to picture: it
 * stands above its neighbours, the largest, and the spread of all; or above its neighbours by far more than any other
 * step does above its own, so that a loop of changing speed can jump.
 */
function jumpsAtSeam({ N, steps, d }: Series, held: readonly boolean[]): boolean {
  if (N < 3 || held[N - 1]) return false
  const moves = steps.filter((_, n) => !held[n])
  const M = moves.length
  const sharp = Array.from({ length: N }, (_, n) => d(n, n + 1, 0))
  const s = (k: number) => moves[(k + 2 * M) % M]
  if (M > 1 || Math.max(steps[N - 1], sharp[N - 1]) > NOTICED) if (leapsAtEnd(steps) || leapsAtEnd(sharp)) return true
  if (M <= FEW || s(-1) <= JUMP.beside * peakOf(s)) return false
  const outstanding = (k: number, reach: number) =>
    s(k) / Math.max(...Array.from({ length: reach }, (_, i) => Math.max(s(k - i - 1), s(k + i + 1))), STILL)
  const inside = moves.slice(0, M - 1)
  const middle = median(inside)
  const least = JUMP.leastDeviation * middle
  const spread = Math.max(deviation(inside, middle), least)
  // Where the speed itself changes, steps are measured by those beside them.
  const nearby = median([s(-3), s(-2), s(0), s(1)])
  const changes = inside.slice(1).map((step, k) => step - inside[k])
  const jitter = Math.max(deviation(changes, 0) / Math.SQRT2, least)
  const outOfFamily =
    outstanding(M - 1, 2) > JUMP.beside &&
    s(-1) > margin(M) * greatest(inside) &&
    s(-1) > Math.min(middle + JUMP.deviations * spread, nearby + JUMP.deviations * jitter)
  // The steps next to the seam have it for a neighbour: it makes them look small, never large.
  const seam = outstanding(M - 1, SUDDEN.reach)
  const others = inside.map((_, k) => outstanding(k, 1)).sort((a, b) => a - b)
  const smooth = others[Math.floor((5 / 6) * others.length)] < SUDDEN.smooth
  return (
    outOfFamily ||
    (smooth && s(-1) > middle && seam > SUDDEN.beside && seam > Math.max(SUDDEN.others, margin(M)) * greatest(others))
  )
}
