import { boundNumber } from '../bounds'
import { checkHome, type MovingProperty, reduceGap, turnsBack } from './home'
import { isTied, type Motion, type MovingValue, periodFrames, travel } from './motion'
import { closeGap } from './shape'

/** One way to bring a motion home: what it says and the motion that results. */
export interface Remedy<V extends MovingValue = MovingValue> {
  readonly kind:
    | 'fill'
    | 'close'
    | 'carry-on'
    | 'cycles'
    | 'travel'
    | 'tie'
    | 'period'
    | 'repeat'
    | 'even'
    | 'match-ends'
    | 'longer'
    | 'rest'
  readonly label: string
  readonly motion: Motion<V>
  /** Values of the layer that change with it. */
  readonly values?: Readonly<Record<string, number | string>>
}

const round = (x: number) => Number(x.toFixed(4))

/** A motion that may need a remedy, with the facts that remedies are made from. */
interface Case<V extends MovingValue> {
  readonly motion: Motion<V>
  readonly length: number
  readonly property: MovingProperty<V>
  readonly unit: string
  /** Whole cycles in the loop that come nearest to the motion's own pace. */
  readonly nearCycles: number
}
type Way = <V extends MovingValue>(of: Case<V>) => Remedy<V>[]

const cyclesWord = (cycles: number) => (cycles === 1 ? 'one cycle' : `${cycles} cycles`)

const remedy = <V extends MovingValue>(kind: Remedy['kind'], label: string, motion: Motion<V>): Remedy<V> => ({
  kind,
  label,
  motion,
})

const asNumeric = <V extends MovingValue>(motion: Motion<V>): Motion<number> | null =>
  typeof motion.keys[0]?.value === 'number' ? (motion as unknown as Motion<number>) : null

const spreadGap: Way = <V extends MovingValue>({ motion, property }: Case<V>) => {
  const numeric = asNumeric(motion)
  if (motion.after !== 'repeat' || motion.keys.length < 2 || !numeric) return []
  const [closed = numeric] = closeGap([numeric], (gap) => reduceGap(gap, property.equivalence))
  const back = remedy('close', 'Close it: it goes back over the last third of the cycle', wayBack(motion))
  // A straight way is nothing but gap: closed like this, it would rest.
  if (extent(closed) <= MIN_EXTENT_LEFT * extent(numeric)) return [back]
  const spread = closed as unknown as Motion<V>
  return [
    remedy('close', 'Close it: the gap between the last key and the first is spread over the cycle', spread),
    back,
  ]
}

const carryOn: Way = ({ motion, property }) => {
  if (!turnsBack(motion, property)) return []
  const last = motion.keys.length - 1
  const keys = motion.keys.map((key, i) => (i === last ? { ...key, at: 1 } : key))
  const label = 'Carry on instead of turning back: accumulate, with the last key at the end of the cycle'
  return [remedy('carry-on', label, { ...motion, keys, after: 'accumulate' })]
}

const repeat: Way = ({ motion, nearCycles }) => {
  const keys = motion.keys.filter((key) => key.at < 1 || motion.keys.length === 1)
  if (motion.after === 'accumulate' || keys.length < 2) return []
  const label = `Repeat, ${cyclesWord(nearCycles)} per loop; the first key is the closing value`
  return [remedy('repeat', label, { ...motion, keys, after: 'repeat', period: { cycles: nearCycles } })]
}

const tie: Way = ({ motion, length, nearCycles }) => {
  if (isTied(motion.period)) return []
  const label = `Tie to the loop: ${cyclesWord(nearCycles)} of ${round(length / nearCycles)} frames`
  const tied = remedy('tie', label, { ...motion, period: { cycles: nearCycles } })
  if (motion.after !== 'once') return [tied]
  const whole = `Make the cycle ${length} frames long, so that its end is the closing frame`
  return [tied, remedy('period', whole, { ...motion, period: { frames: length } })]
}

/** Another travel per cycle, or another number of cycles, with which the travel of the loop looks the same at its end. */
const wholeTravel: Way = <V extends MovingValue>({ motion, length, property, unit, nearCycles }: Case<V>) => {
  const found: Remedy<V>[] = []
  const numeric = asNumeric(motion)
  const total = property.equivalence
  if (motion.after !== 'accumulate' || !numeric || !total) return found
  const now = travel(numeric)
  const multiples = Math.round((now * nearCycles) / total)
  for (const whole of new Set([multiples || Math.sign(now) || 1, Math.ceil((now * nearCycles) / total) || 1])) {
    const wanted = (whole * total) / nearCycles
    const changed = { ...stretchTravel(numeric, wanted), period: { cycles: nearCycles } } as unknown as Motion<V>
    found.push(remedy('travel', `Travel ${round(wanted)}${unit} per cycle instead of ${round(now)}${unit}`, changed))
  }
  for (let cycles = 1; cycles <= length / 2; cycles++)
    if (Math.abs(reduceGap(now * cycles, total)) <= property.threshold / 4) {
      const label = `${cyclesWord(cycles)} of ${round(now)}${unit} per loop`
      return [...found, remedy('cycles', label, { ...motion, period: { cycles } })]
    }
  return found
}

const evenSpeeds: Way = ({ motion }) => {
  if (motion.after !== 'accumulate' || motion.keys.every(({ ease }) => ease === 'linear')) return []
  const keys = motion.keys.map((key) => ({ ...key, ease: 'linear' }))
  return [remedy('even', 'Make the speed even: linear from key to key', { ...motion, keys })]
}

const pairUp: Way = ({ motion }) => {
  const { period } = motion
  if (motion.after !== 'alternate' || !isTied(period)) return []
  return [period.cycles + 1, period.cycles - 1]
    .filter((cycles) => cycles > 0)
    .map((cycles) => {
      const label = `${cyclesWord(cycles)} per loop, so that each way there has its way back`
      return remedy('cycles', label, { ...motion, period: { cycles } })
    })
}

const matchEnds: Way = ({ motion, nearCycles }) => {
  const { keys, after } = motion
  const [first] = keys
  if (!first || (after !== 'once' && after !== 'accumulate')) return []
  const last = keys.length - 1
  const same = keys.map((key, i) => (i === last && i > 0 ? { ...key, value: first.value } : key))
  const matched = remedy('match-ends', 'Give the last key the value of the first', { ...motion, keys: same })
  if (keys.length === 1) return [matched]
  const back = { ...wayBack(motion), after: 'repeat' as const, period: { cycles: nearCycles } }
  return [matched, remedy('close', 'Go there and back: it comes back over the last third of the cycle', back)]
}

/** Ways to bring a motion home, nearest first. */
const WAYS: readonly Way[] = [spreadGap, carryOn, repeat, tie, wholeTravel, evenSpeeds, pairUp, matchEnds]

/**
 * The remedies that bring a motion home, nearest first. Each is checked before it is offered: only motions that
 * come home, repeat no frame and do not hesitate are returned.
 */
export function remedies<V extends MovingValue>(
  motion: Motion<V>,
  length: number,
  property: MovingProperty<V>,
  unit: string,
  gapAllowed?: (rawGap: number) => number,
): Remedy<V>[] {
  if (motion.keys.length === 0) return []
  const nearCycles = Math.max(1, Math.round(length / periodFrames(motion.period, length)))
  const known = new Set([JSON.stringify(motion)])
  return WAYS.flatMap((way) => way({ motion, length, property, unit, nearCycles })).filter((remedy) => {
    const text = JSON.stringify(remedy.motion)
    if (known.has(text)) return false
    known.add(text)
    const report = checkHome(remedy.motion, length, property, gapAllowed)
    return (
      report.home && !report.repeatsFrame && !report.hesitates && report.speeds.some((s) => s > property.threshold / 16)
    )
  })
}

/** Share of its extent that a motion keeps at least when the gap is spread to close it. */
const MIN_EXTENT_LEFT = 0.25
const extent = ({ keys }: Motion<number>): number => {
  const values = keys.map(({ value }) => value)
  return Math.max(...values) - Math.min(...values)
}

/** Share of the cycle in which a motion goes back to its first key. */
const BACK = 1 / 3

/** The same keys in less time, and an eased way back to the first of them in the rest of the cycle. */
function wayBack<V extends MovingValue>(motion: Motion<V>): Motion<V> {
  const { keys } = motion
  const from = keys[0]?.at ?? 0
  const to = keys.at(-1)?.at ?? 1
  const factor = to > from ? Math.min(1, (1 - BACK) / (to - from)) : 1
  return {
    ...motion,
    keys: keys.map((key, i) => ({
      ...key,
      at: from + (key.at - from) * factor - (from > BACK ? from : 0),
      ease: i === keys.length - 1 ? 'ease-in-out' : key.ease,
    })),
  }
}

/** The same motion with another travel per cycle: every value keeps its share of the way. */
export function stretchTravel(motion: Motion<number>, wanted: number): Motion<number> {
  const now = travel(motion)
  const start = motion.keys[0]?.value ?? 0
  const last = motion.keys.length - 1
  const keys = motion.keys.map((key, i) => {
    if (i === last) return { ...key, value: boundNumber(start + wanted) }
    return now === 0 ? key : { ...key, value: boundNumber(start + ((key.value - start) * wanted) / now) }
  })
  return { ...motion, keys }
}
