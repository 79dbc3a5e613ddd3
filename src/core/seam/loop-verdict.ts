import { isStill, type MotionReport } from '../closing'
import { type Loop, referencesOf } from '../document'
import { propertyAt } from '../evaluate'
import { distanceText, layerKind } from '../layers'
import { mediumKind } from '../media'
import { parseEase } from '../motion'
import { greatest } from '../statistics'
import { type Cause, seamCause } from './cause'
import { fringeOf } from './fringe'
import { leapWords } from './leap'
import type { SeamReport, Verdict } from './verdict'
import { VERDICT_WORDS } from './words'

/** The verdict on an open loop: what its pictures show and what its motions explain, in one word and a sentence. */
export interface LoopVerdict {
  readonly verdict: Verdict
  /** The finding and its reason, for somebody who has never heard of a seam. */
  readonly sentence: string
  /** The motion at fault, or null. */
  readonly fault: MotionReport | null
}

/** A gap in words: `10°`, `12.5 px`; a share of a whole as per cent; a colour as a distance. */
export const formatGap = ({ gap, property }: Pick<MotionReport, 'gap' | 'property'>): string =>
  distanceText(property, Math.abs(gap))

/** Why a motion does not come home, as a clause. */
function homeReason(report: MotionReport, length: number): string {
  const { motion } = report
  if ('frames' in motion.period) {
    const cycles = length / motion.period.frames
    const count = Number(cycles.toFixed(3))
    if (motion.after === 'once')
      return `it runs once in ${Number(motion.period.frames.toFixed(3))} frames and stops elsewhere`
    if (!Number.isInteger(count)) return `${count} cycles fit in the loop, which is not a whole number`
  }
  if (motion.after === 'accumulate') return 'what it carries on by does not add up to something that looks the same'
  if (motion.after === 'alternate') return 'it goes there an odd number of times, so the way back is missing'
  return 'its last key differs from its first'
}

/** The fault of a motion and its reason; null if it comes home well. */
export function motionFault(report: MotionReport, loopLength: number): string | null {
  const length = report.inside?.length ?? loopLength
  const what = `${report.inside ? `In ${report.inside.name}: ` : ''}${report.layer.name}, ${report.property.label}`
  if (report.ends) {
    const { sides, frame } = report.ends
    return `${what}: comes home by a whole place, but ${sides.length > 1 ? `its ends at the ${sides.join(' and the ')} are` : `its end at the ${sides[0]} is`} in sight: at frame ${frame % length} one copy vanishes there and another appears at the other end.`
  }
  if (report.leap !== null)
    return `${what}: gets back to its first key by a leap of ${formatGap(report)} in a single frame, far more than any other of its steps: it is not closed.`
  if (report.repeatsFrame)
    return `${what}: frame ${length - 1} already shows what frame 0 shows. Both ends of the cycle are keyed alike, but the cycle ends a frame early, so the picture stands still for one frame.`
  if (!report.home && report.staggered && Math.abs(report.gap) < 1e-6)
    return `${what}: is back by itself, but does not go on as it began, and its copies are staggered: some of them jump.`
  if (!report.home)
    return `${what}: ends ${formatGap(report)} away from where it starts; ${homeReason(report, length)}.`
  if (report.hesitates)
    return `${what}: slows down towards the seam and speeds up after it, once per cycle. Its ease is made for a motion that stops; this one carries on.`
  return null
}

/** Places in the cycle of a medium that differ by less are one. */
const SAME_PLACE = 1e-6

/**
 * A medium that does not close on its own, where the loop runs across its fault: at every frame from which its time passes that place, in either
 * direction, however far it travels. Null where there is none.
 */
function seamCrossed(report: MotionReport, { media, length }: Loop) {
  const { layer, name } = report
  const shown = layerKind(layer.kind).running === name ? referencesOf(layer) : []
  const medium = media.find(({ kind, id }) => shown.some((each) => each.to === kind && each.id === id))
  const { seam, label = '' } = medium ? mediumKind(medium.kind) : {}
  const own = medium && seam?.(medium)
  if (!own || own.verdict === 'closes' || own.verdict === 'still') return null
  const frames = report.inside?.length ?? length
  const cycle = (n: number) => Math.floor(Number(propertyAt(layer, name, n, frames)) - own.place + SAME_PLACE)
  const frame = Array.from({ length: frames }, (_, n) => n).find((n) => cycle(n) !== cycle(n + 1))
  const where = own.frame === 0 ? 'at its own seam' : `before its frame ${own.frame}`
  return frame === undefined ? null : { motion: report, own, where, frame, what: `${label} “${medium.name}”` }
}

/** A motion is slow at a frame where it moves by less than this share of its greatest step. */
const SLOW = 0.3

/** Whether a motion all but rests between a frame and the next. */
const restsAt = ({ speeds }: MotionReport, frame: number): boolean =>
  (speeds[frame % speeds.length] ?? 0) < SLOW * greatest(speeds)

/**
 * Whether slowness at a frame is meant: a motion that is seen, of which that was said, rests there, and no other that carries on does so
 * without it having been said.
 */
function isRestMeantAt(motions: readonly MotionReport[], frame: number): boolean {
  const resting = motions.filter((report) => restsAt(report, frame))
  return (
    resting.some(({ motion }) => motion.restMeant) &&
    resting.every(({ motion, evenness }) => motion.restMeant || evenness === null)
  )
}

/** Whether a sudden step of the pictures is meant: what does it is an event, a tremble, a value that is held until the next key, or was said to be meant. */
function isCutMeant(cause: Cause | null): boolean {
  if (!cause) return false
  if (cause.repeatsItself) return true
  const motion = cause.report?.motion
  if (!motion) return false
  return (
    motion.cutMeant === true || motion.keys.some(({ ease }) => ['hold', 'steps'].includes(parseEase(ease)?.type ?? ''))
  )
}

/** From the mildest to the gravest. */
const GRAVITY: readonly Verdict[] = [
  'still',
  'closes',
  'too-few-frames',
  'hesitates',
  'repeats-a-frame',
  'jumps',
  'blank-frame',
]
const graver = (a: Verdict, b: Verdict): boolean => GRAVITY.indexOf(a) > GRAVITY.indexOf(b)

/** The verdict from the motions alone, by the gravest fault; null if all of them come home well. */
function motionsVerdict(loop: Loop, visible: readonly MotionReport[]): LoopVerdict | null {
  const faulty = (fault: MotionReport, verdict: Verdict): LoopVerdict => ({
    verdict,
    fault,
    sentence: motionFault(fault, loop.length) ?? '',
  })
  const worst = visible
    .filter(({ home, motion }) => !home && !motion.cutMeant)
    .sort((a, b) => Math.abs(b.gap) / (b.speeds[0] || 1) - Math.abs(a.gap) / (a.speeds[0] || 1))[0]
  if (worst && !worst.repeatsFrame) return faulty(worst, 'jumps')
  const repeats = visible.find((motion) => motion.repeatsFrame)
  if (repeats) return faulty(repeats, 'repeats-a-frame')
  const [crossed] = visible
    .filter(({ motion }) => !motion.cutMeant)
    .flatMap((report) => seamCrossed(report, loop) ?? [])
  if (crossed)
    return {
      verdict: crossed.own.verdict,
      fault: crossed.motion,
      sentence: `The ${crossed.what} ${VERDICT_WORDS[crossed.own.verdict]} ${crossed.where}, which the loop shows after frame ${crossed.frame}. Mend it in the view of its file and place it again, or let it run there and back within its frames.`,
    }
  const slow = visible.find((motion) => motion.hesitates)
  return slow ? faulty(slow, 'hesitates') : null
}

/** A sentence about a jump in the pictures of a loop of N frames. */
function jumpSentence({ frame, isStray, leap }: SeamReport, N: number): string {
  if (isStray)
    return `Frame ${frame} does not belong: the frames before and after it follow each other, and it is like neither.`
  if (leap) return `From frame ${frame} to frame ${((frame ?? N - 1) + 1) % N} ${leapWords(leap)}.`
  if (frame === null || frame === N - 1)
    return 'At the seam the picture changes far more than from frame to frame elsewhere.'
  return `After frame ${frame} the picture changes far more than from frame to frame elsewhere.`
}

/** The verdict from the pictures where they show a fault, with the layer and property that cause it. */
function picturesVerdict(loop: Loop, visible: readonly MotionReport[], pictures: SeamReport): LoopVerdict | null {
  const { verdict, frame } = pictures
  const last = loop.length - 1
  if (verdict === 'closes' || verdict === 'still') return null
  // Where too few frames tell nothing, the motions do: each of them is known to come home.
  if (verdict === 'too-few-frames' && visible.length > 0 && loop.media.length === 0) return null
  if (verdict === 'hesitates' && isRestMeantAt(visible, frame ?? last)) return null
  // A loop that only trembles varies at random, and is back at the seam.
  const trembles = visible.length === 0 && !isStill(loop.layers)
  if ((verdict === 'hesitates' || verdict === 'repeats-a-frame') && trembles) return null
  const cause = seamCause(loop, frame ?? last, visible)
  if (verdict === 'jumps' && isCutMeant(cause)) return null
  const from = cause ? ` It comes from ${cause.words}.` : ''
  const sentences: Record<Exclude<Verdict, 'closes' | 'still'>, string> = {
    'blank-frame': `Frame ${frame} is blank while its neighbours look alike: the loop blinks.`,
    jumps: jumpSentence(pictures, loop.length),
    'repeats-a-frame': `Frame ${frame} is shown once more than the others are: the loop stands still there.`,
    hesitates: `The pictures slow down towards ${frame === null || frame === last ? 'the seam' : `frame ${frame}`} and speed up after it.`,
    'too-few-frames': 'In so few frames everything moves so far that a jump would look like any other step.',
  }
  return { verdict, fault: cause?.report ?? null, sentence: `${sentences[verdict]}${from}` }
}

/**
 * The verdict on a loop: pictures decide, by the rules by which any file is judged, and motions explain. A motion that does
 * not come home is named even where the pictures do not show it, and it is said that they do not. `pictures` may be missing while
 * they are being looked at.
 */
export function judgeLoop(loop: Loop, motions: readonly MotionReport[], pictures: SeamReport | null): LoopVerdict {
  const visible = motions.filter((motion) => motion.visible)
  const ofMotions = motionsVerdict(loop, visible)
  const ofPictures = pictures && picturesVerdict(loop, visible, pictures)
  if (ofPictures && (!ofMotions || graver(ofPictures.verdict, ofMotions.verdict)))
    return { ...ofPictures, fault: ofPictures.fault ?? ofMotions?.fault ?? null }
  if (ofMotions) {
    const unseen = pictures && ofPictures === null ? ' In the frames as they are drawn now it is not seen.' : ''
    return { ...ofMotions, sentence: `${ofMotions.sentence}${unseen}` }
  }
  const fringe = pictures && fringeOf(pictures.verdict, pictures.grounds)
  const say = (verdict: Verdict, sentence: string): LoopVerdict => ({
    verdict,
    fault: null,
    sentence: fringe ? `${sentence} ${fringe.message}` : sentence,
  })
  if (isStill(loop.layers)) return say('still', 'Nothing moves yet: every frame is the same. Give a property a motion.')
  if (pictures?.verdict === 'still')
    return say(
      'still',
      'Every frame shows the same: what moves is hidden, outside the frame, or changes nothing that is seen.',
    )
  if (visible.length === 0) return say('closes', 'What trembles or happens here repeats with the loop by construction.')
  const count = visible.length === 1 ? 'The motion comes' : `All ${visible.length} motions come`
  const exchange = visible.some(({ exchanged }) => exchanged) ? ', with like layers in each other’s places' : ''
  const rest = visible.some(({ motion }) => motion.restMeant) ? ' Its rest is meant.' : ''
  const cut = visible.some(({ motion }) => motion.cutMeant) ? ' Its sudden step is meant.' : ''
  return say('closes', `${count} home: the closing frame ${loop.length} equals frame 0${exchange}.${rest}${cut}`)
}
