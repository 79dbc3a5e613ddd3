import type { DisplayList } from '../display'
import { type Layer, type Loop, placedLoops } from '../document'
import { evaluate } from '../evaluate'
import { divisors } from '../fit'
import { isTied, type Motion, mixNumbers, motionValue, periodFrames, stretchTravel, travel } from '../motion'
import { checkMotions } from './closing'
import { showsTheSame } from './likeness'
import { changeAllTimes } from './timing'

/** A loop that shows the same in fewer frames. */
export interface ShorterLoop {
  readonly length: number
  /** How many times it is contained in the loop. */
  readonly times: number
  readonly loop: Loop
  /** True where like layers stand in for one another, so that motions end in mid-cycle and the picture still closes. */
  readonly exchanged: boolean
}

/** Longer loops are not looked through picture by picture. */
const MAX_EXCHANGE = 1200

/** A motion in a loop shortened by a whole factor; null if its cycles do not divide and it does not run evenly on. */
function shortened(motion: Motion, length: number, times: number): Motion | null {
  const cycles = length / periodFrames(motion.period, length)
  const part = cycles / times
  if (Math.abs(part - Math.round(part)) < 1e-9 && part > 0.5)
    return isTied(motion.period) ? { ...motion, period: { cycles: Math.round(part) } } : motion
  if (motion.after === 'repeat') return partOfCycle(motion, length, times)
  if (motion.after !== 'accumulate') return null
  const whole = Math.max(1, Math.round(part))
  const wanted = (travel(motion as Motion<number>) * part) / whole
  return { ...stretchTravel(motion as Motion<number>, wanted), period: { cycles: whole } }
}

/** A repeating motion of one cycle that does the same several times in it: one of those; null where it does not. */
function partOfCycle(motion: Motion, length: number, times: number): Motion | null {
  if (periodFrames(motion.period, length) !== length) return null
  const keys = motion.keys.filter(({ at }) => at < 1 / times - 1e-9).map((key) => ({ ...key, at: key.at * times }))
  if (keys.length === 0) return null
  const part: Motion = { ...motion, keys, period: { cycles: 1 }, phase: (motion.phase * times) % 1 }
  const value = (each: Motion, n: number, of: number) => motionValue(each, n, of, (a, b, t) => (t < 0.5 ? a : b))
  const number = (each: Motion, n: number, of: number) => motionValue(each as Motion<number>, n, of, mixNumbers)
  const numeric = motion.keys.every((key) => typeof key.value === 'number')
  const alike = (n: number) =>
    numeric
      ? Math.abs(number(motion, n, length) - number(part, n, length / times)) < 1e-6
      : value(motion, n, length) === value(part, n, length / times)
  return Array.from({ length }, (_, n) => n).every(alike) ? part : null
}

/**
 * The shorter loop of which this one is a repetition in its pictures alone: like layers take each other's places. Their
 * motions keep their frames, and are in mid-cycle at its end.
 */
function byExchange(loop: Loop, times: number, pictures: (n: number) => DisplayList): Loop | null {
  const length = loop.length / times
  if (length < 2) return null
  for (let n = 0; n + length < loop.length; n++) if (!showsTheSame(pictures(n), pictures(n + length))) return null
  return {
    ...changeAllTimes(loop, {
      motion: (motion) => ({ ...motion, period: { frames: periodFrames(motion.period, loop.length) } }),
    }),
    length,
  }
}

/** Frames of a loop, each evaluated once. */
function picturesOf(loop: Loop): (n: number) => DisplayList {
  const made = new Map<number, DisplayList>()
  return (n) => {
    const known = made.get(n) ?? evaluate(loop, n)
    made.set(n, known)
    return known
  }
}

/** Whether layers have motions of their own alone, which can be cut where the picture repeats. */
const movesOnly = (layers: readonly Layer[]): boolean =>
  placedLoops(layers).length === 0 &&
  layers.every(
    ({ trembles = {}, events = {}, layers: held = [] }) =>
      Object.keys(trembles).length + Object.keys(events).length === 0 && movesOnly(held),
  )

/**
 * The shorter loops that lie in a loop, the shortest first: lengths N/d at which every motion is home already, by
 * itself or by the symmetry of what it turns, and goes on as it began; and those at which the whole picture is the same
 * again because like layers have changed places.
 */
export function shorterLoops(loop: Loop): ShorterLoop[] {
  const found: ShorterLoop[] = []
  const pictures = picturesOf(loop)
  const exchangeable = loop.length <= MAX_EXCHANGE && loop.blur.shutter === 0 && movesOnly(loop.layers)
  for (const times of divisors(loop.length).reverse()) {
    if (times === 1) break
    let whole = true
    const refuse = <T>(each: T): T => {
      whole = false
      return each
    }
    const fewer = <T extends { readonly cycles: number }>(each: T): T =>
      each.cycles % times === 0 ? { ...each, cycles: each.cycles / times } : refuse(each)
    const timed = changeAllTimes(loop, {
      motion: (motion) => shortened(motion, loop.length, times) ?? refuse(motion),
      tremble: fewer,
      event: fewer,
    })
    const shorter = { ...timed, length: loop.length / times }
    const reports = whole ? checkMotions(shorter).filter(({ inside, visible }) => visible && inside === null) : []
    if (reports.length > 0 && reports.every(({ home, goesOn }) => home && goesOn))
      found.push({ length: shorter.length, times, loop: shorter, exchanged: false })
    else {
      const other = exchangeable ? byExchange(loop, times, pictures) : null
      if (other && checkMotions(other).some(({ exchanged }) => exchanged))
        found.push({ length: other.length, times, loop: other, exchanged: true })
    }
  }
  return found
}
