import { median } from '../statistics'
import type { JudgedFrame } from './descriptor'
import { driftOf } from './drift'
import { FINDING_KINDS, type Finding, type FindingKind } from './finding'
import { fringeOf } from './fringe'
import type { Ground } from './grounds'
import { leapWords } from './leap'
import { hasKink, isThereAndBack, strobes } from './patterns'
import type { Series } from './series'
import { expectedAt, judgeOnGrounds, ratioOf, type SeamReport, type SeriesFaults } from './verdict'

/** When the frames of a file are shown. */
export interface ClipTiming {
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
}

/** The report on a file: the verdict on its seam, and all findings, the gravest first. */
export interface ClipReport {
  readonly seam: SeamReport
  readonly findings: readonly Finding[]
  /** True where nothing has to be mended. */
  readonly sound: boolean
}

/** Common viewers replace delays of at most this by 100 ms. */
export const MIN_KEPT_DELAY_MS = 10

/** Facts of a judged file that findings are made from. */
interface Judged {
  readonly series: Series
  readonly faults: ReturnType<typeof judgeOnGrounds>['faults']
  readonly timing: ClipTiming
  /** The ground the file was judged on, if one was asked for. */
  readonly ground: Ground | undefined
}

const fault = (kind: FindingKind, frame: number | null, message: string, remedy: string): Finding => ({
  kind,
  frame,
  message,
  remedy,
  hint: false,
})
const hint = (...words: Parameters<typeof fault>): Finding => ({ ...fault(...words), hint: true })

const blankFrames = ({ faults }: Judged): Finding[] =>
  faults.blank.map((frame) =>
    fault(
      'blank-frame',
      frame,
      `Frame ${frame} is empty or of one colour, and its neighbours look alike: the picture blinks once in every loop.`,
      `Drop frame ${frame}.`,
    ),
  )

const strayFrames = ({ faults }: Judged): Finding[] =>
  faults.stray.map((frame) =>
    fault(
      'stray-frame',
      frame,
      `Frame ${frame} does not belong: the frames before and after it follow each other, and it is like neither.`,
      `Drop frame ${frame}.`,
    ),
  )

const jump = ({ series, faults }: Judged): Finding[] =>
  faults.jump === null ? [] : [jumpFinding(series, faults, faults.jump)]

const repeatedFrames = ({ series: { N }, faults }: Judged): Finding[] =>
  faults.repeated.map((frame) =>
    fault(
      'repeats-a-frame',
      frame,
      frame === N - 1
        ? 'The last frame shows what frame 0 shows: the range is one frame too long, so the loop stands still for a frame at its seam.'
        : `Frame ${frame} shows the frame before it once more, longer than the others are held: the motion stutters there.`,
      `Drop frame ${frame}.`,
    ),
  )

function hesitation({ series: { N }, faults: { hesitation: frame } }: Judged): Finding[] {
  if (frame === null) return []
  const place = frame === N - 1 ? 'the seam' : `frame ${frame}`
  return [
    fault(
      'hesitates',
      frame,
      `The motion slows down towards ${place} and speeds up after it: its ease is made for a motion that stops.`,
      'Make the speed even where the loop is made, or even out the delays.',
    ),
  ]
}

const tooFewFrames = ({ series: { N }, faults }: Judged): Finding[] =>
  faults.seam.verdict !== 'too-few-frames'
    ? []
    : [
        fault(
          'too-few-frames',
          null,
          `It has ${N} frames, in each of which what moves is far from where it was: whether the step across the seam is like the others cannot be told from so few.`,
          'Give it more frames for the same time, or look at the motion itself where the loop is made.',
        ),
      ]

function drift({ series, faults }: Judged): Finding[] {
  // A blank frame bends every line through the frames: drift is looked for once it has been dropped.
  const found = faults.blank.length > 0 ? null : driftOf(series)
  if (found === null) return []
  const { frame, to } = found
  return [
    fault(
      'drift',
      frame,
      frame === series.N - 1
        ? `The whole picture gets ${to} from the first frame to the last, and jumps back at the seam.`
        : `The whole picture gets ${to} from frame ${frame + 1} on, across the seam, and jumps back after frame ${frame}.`,
      'Even out the drift of exposure and colour.',
    ),
  ]
}

function shorterLoop({ series: { N }, faults: { period } }: Judged): Finding[] {
  if (period === null) return []
  const message = `Frames ${period} to ${N - 1} show again what frames 0 to ${period - 1} show: the loop is ${period} frames long, ${N / period} times over.`
  return [{ ...hint('shorter-loop', period, message, `Cut it to its first ${period} frames.`), length: period }]
}

const thereAndBack = ({ series }: Judged): Finding[] =>
  !isThereAndBack(series)
    ? []
    : [
        hint(
          'there-and-back',
          null,
          `It runs there and back: frame ${series.N - 1} equals frame 1, frame ${series.N - 2} frame 2, and so on.`,
          'Nothing has to be done. Half of the frames are enough to make it.',
        ),
      ]

const kink = ({ series, faults }: Judged): Finding[] =>
  faults.seam.verdict !== 'closes' || !hasKink(series)
    ? []
    : [
        hint(
          'kink',
          series.N - 1,
          'The motion changes its direction at the seam as it does nowhere else: a kink, not a jump.',
          'Carry the motion on across the seam where the loop is made.',
        ),
      ]

const strobing = ({ series, faults }: Judged): Finding[] =>
  faults.period !== null || !strobes(series)
    ? []
    : [
        hint(
          'strobes',
          null,
          'Every second frame is more alike than neighbours are: what repeats in the picture moves by nearly half of its pitch per frame, and may be seen to flicker or run backwards.',
          'Make it slower, add frames, or blur the motion in each frame.',
        ),
      ]

function fringe({ faults: { seam }, ground }: Judged): Finding[] {
  const found = ground ? null : fringeOf(seam.verdict, seam.grounds)
  return found ? [found] : []
}

/** Rules for every file. Each gives its findings, or none. */
const RULES = [blankFrames, strayFrames, jump, repeatedFrames, hesitation, tooFewFrames, fringe]
/** Rules for files in which something moves. */
const MOVING_RULES = [drift, shorterLoop, thereAndBack, kink, strobing]

/**
 * Judges the frames of a file, described one at a time, and its timing.
 * @param ground on which a transparent file is judged; white unless given
 * @throws RangeError for no frames.
 */
export function judgeClip(frames: readonly JudgedFrame[], timing: ClipTiming, ground?: Ground): ClipReport {
  const { series, faults } = judgeOnGrounds(frames, ground)
  const judged: Judged = { series, faults, timing, ground }
  const moves = faults.seam.verdict !== 'still'
  const findings = [...RULES, ...(moves ? MOVING_RULES : []), timingRule]
    .flatMap((rule) => rule(judged))
    .sort((a, b) => FINDING_KINDS.indexOf(a.kind) - FINDING_KINDS.indexOf(b.kind))
  return { seam: faults.seam, findings, sound: findings.every((finding) => finding.hint) }
}

/** A jump in words: where it lies in time, how large it is, and what leaps where in the frame. */
function jumpFinding(series: Series, { period, seam: { leap, steps } }: SeriesFaults, frame: number): Finding {
  const { N } = series
  const inside = frame !== N - 1
  const ratio = ratioOf(steps[frame], expectedAt(series, frame))
  const what = leap ? leapWords(leap) : null
  const from = `From frame ${frame} to frame ${(frame + 1) % N}`
  const rounds = period === null ? '' : `The loop is ${period} frames long, ${N / period} times over. `
  const message = what
    ? `${rounds}${from} ${what}, as nothing does from frame to frame elsewhere${inside ? '' : ': the end does not lead to the start'}.`
    : period !== null
      ? `${rounds}${inside ? `After frame ${frame % period}` : 'At the end'} of each round the picture changes far more than from frame to frame inside it.`
      : `${from} the picture changes ${times(ratio)} as much as from frame to frame beside them${inside ? ': it jumps in the middle of the loop' : ': the end does not lead to the start'}.`
  return {
    kind: inside ? 'jumps-inside' : 'jumps',
    frame,
    message,
    remedy: inside
      ? 'Begin the loop there and overlap its ends, or crop it to a range without the cut; where the cut is meant, say so in the loop.'
      : 'Overlap the ends, or crop the loop to a range that closes.',
    hint: false,
    ...(leap ? { leap } : {}),
  }
}

const times = (ratio: number): string => (Number.isFinite(ratio) ? `${ratio.toFixed(1)} times` : 'many times')

const timingRule = ({ series: { N }, timing }: Judged): Finding[] => timingFindings(timing, N)

/** Findings about the timing of a file. */
function timingFindings({ delaysMs, playsForever }: ClipTiming, N: number): Finding[] {
  const found: Finding[] = []
  if (!playsForever && N > 1)
    found.push({
      kind: 'plays-once',
      frame: null,
      message: 'The file does not ask to be repeated for ever: viewers stop it.',
      remedy: 'Set it to repeat for ever.',
      hint: false,
    })
  if (N < 2) return found
  const short = delaysMs.findIndex((delay) => delay <= MIN_KEPT_DELAY_MS)
  if (short >= 0)
    found.push({
      kind: 'delay-too-short',
      frame: short,
      message: `Frame ${short} asks for ${delaysMs[short]} ms. Common viewers show delays of ${MIN_KEPT_DELAY_MS} ms and less for 100 ms instead.`,
      remedy: `Give every frame 20 ms or more, with fewer frames where it must be fast.`,
      hint: false,
    })
  const odd = oddDelay(delaysMs)
  if (odd !== null)
    found.push({
      kind: 'uneven-delays',
      frame: odd,
      message: `Frame ${odd} is shown for ${delaysMs[odd]} ms, while most are shown for ${median(delaysMs)} ms.`,
      remedy: 'Even out the delays.',
      hint: false,
    })
  return found
}

/** A delay is a pause that was meant from this many times the usual one on. */
const PAUSE = 3

/**
 * The frame whose delay is out of line by more than rounding; null where the delays are even, round an even pace to
 * whole hundredths (delay_n = round(100(n+1)/r) − round(100n/r)), take turns, or pause once on purpose.
 */
function oddDelay(delaysMs: readonly number[]): number | null {
  const usual = median(delaysMs)
  const rest = delaysMs.filter((delay) => Math.abs(delay - usual) > 10.5)
  if (rest.length === 0) return null
  const values = new Set(delaysMs)
  const recurring = [...values].every((value) => delaysMs.filter((delay) => delay === value).length > 1)
  if (recurring && rest.length > delaysMs.length / 8) return null
  const odd = delaysMs.findIndex((delay) => Math.abs(delay - usual) > 10.5 && delay < PAUSE * usual)
  return odd >= 0 ? odd : null
}
