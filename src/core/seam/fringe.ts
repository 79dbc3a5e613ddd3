import type { Verdict } from '../media'
import type { Finding } from './finding'
import { GROUND_NAMES, type GroundName } from './grounds'
import type { SeamReport } from './verdict'

const ON: Record<GroundName, string> = { white: 'white', black: 'dark pages', grey: 'mid-grey' }

/**
 * The finding for a transparent file whose edge does not come home over other grounds than the one it is judged over.
 */
export function fringeOf(verdict: Verdict, grounds: SeamReport['grounds']): Finding | null {
  if (verdict !== 'closes' && verdict !== 'still') return null
  const worse = GROUND_NAMES.filter((name) => grounds[name] !== verdict && !['closes', 'still'].includes(grounds[name]))
  const [first] = worse
  if (!first) return null
  const sound = GROUND_NAMES.filter((name) => !worse.includes(name))
  return {
    kind: 'fringe',
    frame: null,
    ...(sound[0] ? { ground: sound[0] } : {}),
    message: `Over ${sound.map((name) => ON[name]).join(' and ')} it ${verdict === 'still' ? 'stands still' : 'closes'}; over ${worse.map((name) => ON[name]).join(' and ')} its edge ${FRINGE_WORDS[grounds[first]]}: what is half transparent there does not come home.`,
    remedy: 'Give every frame the same edge, or lay all frames on a matte of the colour of the page.',
    hint: false,
  }
}
const FRINGE_WORDS: Record<Verdict, string> = {
  closes: 'closes',
  still: 'stands still',
  jumps: 'jumps',
  hesitates: 'hesitates',
  'blank-frame': 'blinks',
  'repeats-a-frame': 'stands still for a frame',
  'too-few-frames': 'has too few frames to tell',
}
