import { UNIT_TEXT } from '../layers'
import { type Clip, isStill, type Loop, type MotionReport } from '../loop'
import { type Motion, travel } from '../motion'
import type { SeamReport, Verdict } from './verdict'

/** The verdict on an open loop: what its motions prove and what its pictures show, in one word and a sentence. */
export interface LoopVerdict {
  readonly verdict: Verdict
  /** What is seen and why, for somebody who has never heard of a seam. */
  readonly sentence: string
  /** The motion at fault, or null. */
  readonly fault: MotionReport | null
}

export const VERDICT_WORDS: Record<Verdict, string> = {
  closes: 'closes',
  'repeats-a-frame': 'repeats a frame',
  'blank-frame': 'blank frame',
  jumps: 'jumps',
  hesitates: 'hesitates',
  still: 'still',
}

/** A gap in words: `10°`, `12.5 px`; a share of a whole as per cent; a colour as a distance. */
export function formatGap(report: Pick<MotionReport, 'gap' | 'property'>): string {
  const { gap, property } = report
  const size = Math.abs(gap)
  if (property.type !== 'number') return `${size.toFixed(3)} in OKLab`
  if (property.unit === 'share') return `${Number((100 * size).toFixed(2))} %`
  return `${Number(size.toFixed(3))}${UNIT_TEXT[property.unit]}`
}

/** Why a motion does not come home, as a clause. */
export function homeReason(report: MotionReport, length: number): string {
  const { motion } = report
  if ('frames' in motion.period) {
    const cycles = length / motion.period.frames
    const count = Number(cycles.toFixed(3))
    if (motion.after === 'once')
      return `it runs once in ${Number(motion.period.frames.toFixed(3))} frames and stops elsewhere`
    return `${count} cycles fit in the loop, which is not a whole number`
  }
  if (motion.after === 'accumulate') return 'what it carries on by does not add up to something that looks the same'
  if (motion.after === 'alternate') return 'it goes there an odd number of times, so the way back is missing'
  return 'its last key differs from its first'
}

/** What is wrong with a motion, and why; null where it comes home well. */
export function motionFault(report: MotionReport, loopLength: number): string | null {
  const length = report.inside?.length ?? loopLength
  const what = `${report.inside ? `In ${report.inside.name}: ` : ''}${report.layer.name}, ${report.property.label}`
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

/** The clip whose own seam, which does not close, a motion of its time goes across; null where there is none. */
function clipCrossed({ layer, name, motion }: MotionReport, { clips }: Loop): Clip | null {
  const clip = layer.kind === 'clip' && name === 'time' && clips.find(({ id }) => id === layer.values.clip)
  if (!clip || clip.verdict === 'closes' || clip.verdict === 'still') return null
  return motion.after === 'accumulate' && Math.abs(travel(motion as Motion<number>)) >= 1 ? clip : null
}

/**
 * The verdict on a loop. A motion that does not come home is a jump even where the pictures hide it, and where all
 * come home the loop is proven to close: a sudden change at the seam is then one that was keyed. `pictures` may be
 * missing while they are being looked at.
 */
export function judgeLoop(loop: Loop, motions: readonly MotionReport[], pictures: SeamReport | null): LoopVerdict {
  const visible = motions.filter((motion) => motion.visible)
  const say = (verdict: Verdict, fault: MotionReport | null, sentence: string): LoopVerdict => ({
    verdict,
    fault,
    sentence,
  })
  const faulty = (fault: MotionReport, verdict: Verdict) => say(verdict, fault, motionFault(fault, loop.length) ?? '')
  const worst = visible
    .filter((motion) => !motion.home)
    .sort((a, b) => Math.abs(b.gap) / (b.speeds[0] || 1) - Math.abs(a.gap) / (a.speeds[0] || 1))[0]
  const repeats = visible.find((motion) => motion.repeatsFrame)
  if (pictures?.verdict === 'blank-frame')
    return say(
      'blank-frame',
      null,
      `Frame ${pictures.frame} is blank while its neighbours look alike: the loop blinks.`,
    )
  if (worst && !worst.repeatsFrame) return faulty(worst, 'jumps')
  if (repeats) return faulty(repeats, 'repeats-a-frame')
  const clip = visible.map((motion) => ({ motion, clip: clipCrossed(motion, loop) })).find(({ clip }) => clip)
  if (clip?.clip)
    return say(
      clip.clip.verdict,
      clip.motion,
      `The clip “${clip.clip.name}” ${VERDICT_WORDS[clip.clip.verdict]} at its own seam, which the loop shows. Mend it in the view of its file and place it again, or let it run there and back.`,
    )
  const slow = visible.find((motion) => motion.hesitates)
  if (slow) return faulty(slow, 'hesitates')
  if ((visible.length === 0 && isStill(loop.layers)) || pictures?.verdict === 'still')
    return say('still', null, 'Nothing moves yet: every frame is the same. Give a property a motion.')
  if (pictures?.verdict === 'jumps')
    return say(
      'closes',
      null,
      'Every motion comes home. The sudden change at the seam is keyed: a held value ends there.',
    )
  if (visible.length === 0)
    return say('closes', null, 'What trembles or happens here repeats with the loop by construction.')
  const count = visible.length === 1 ? 'The motion comes' : `All ${visible.length} motions come`
  const exchange = visible.some(({ exchanged }) => exchanged) ? ', with like layers in each other’s places' : ''
  return say('closes', null, `${count} home: the closing frame ${loop.length} equals frame 0${exchange}.`)
}
