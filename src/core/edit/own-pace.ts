import { MAX_LENGTH, toNumber } from '../clock'
import { changeLoopClock, type Timed, withCount } from '../closing'
import { changeLayer, findLayer, type Loop } from '../document'
import { isTied } from '../motion'

/** A length of the loop, in frames, in which something placed runs whole cycles exactly at its own pace. */
export interface ExactLength {
  readonly length: number
  readonly cycles: number
}

/** Tolerance for whole frames, and the largest factor by which a loop is made longer or shorter for an exact pace. */
const SAME = 1e-6
const TOO_FAR = 12
/** At most this many cycles are searched. */
const MAX_CYCLES = 200

/**
 * Lengths at which something of the given duration, in seconds, keeps exactly its own pace: those nearest to the loop's
 * length, shorter and longer.
 */
export function exactLengths(
  { length, rate }: Pick<Loop, 'length' | 'rate'>,
  seconds: number,
  most = 3,
): ExactLength[] {
  const frames = seconds * toNumber(rate)
  if (!(frames > 0)) return []
  const found: ExactLength[] = []
  for (let cycles = 1; cycles <= MAX_CYCLES && cycles * frames <= MAX_LENGTH; cycles++) {
    const whole = Math.round(cycles * frames)
    if (whole >= 1 && Math.abs(whole - cycles * frames) < SAME) found.push({ length: whole, cycles })
  }
  const away = ({ length: own }: ExactLength) => Math.abs(Math.log(own / length))
  return found
    .filter((each) => away(each) <= Math.log(TOO_FAR))
    .sort((a, b) => away(a) - away(b))
    .slice(0, most)
    .sort((a, b) => a.length - b.length)
}

/**
 * The loop at such a length, with what was placed, trembles or happens running its whole cycles in it; everything else keeps its seconds as nearly as whole
 * cycles allow.
 * @returns the names of layers whose speed had to bend for it, too
 */
export function atOwnPace(
  loop: Loop,
  layerId: string,
  property: string,
  { length, cycles }: ExactLength,
  what: Timed = 'motion',
): { readonly loop: Loop; readonly bent: readonly string[] } {
  const changed = changeLoopClock(loop, { rate: loop.rate, length }, 'frames')
  const motion = findLayer(changed.loop, layerId)?.motions[property]
  if (what === 'motion' && (!motion || !isTied(motion.period))) return { loop: changed.loop, bent: [] }
  const own = changeLayer(changed.loop, layerId, (layer) => withCount(layer, { what, name: property }, cycles))
  const name = findLayer(loop, layerId)?.name
  return { loop: own, bent: [...new Set(changed.bent.map(({ layer }) => layer))].filter((each) => each !== name) }
}
