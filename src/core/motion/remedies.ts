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
  const found: Remedy<V>[] = []
  const offer = (kind: Remedy['kind'], label: string, changed: Motion<V>) =>
    found.push({ kind, label, motion: changed })
  const { keys, period, after } = motion
  const first = keys[0]
  const last = keys[keys.length - 1]
  if (!first || !last) return []
  const cyclesNow = length / periodFrames(period, length)
  const nearCycles = Math.max(1, Math.round(cyclesNow))
  const tied = { cycles: nearCycles }
  const cyclesWord = (c: number) => (c === 1 ? 'one cycle' : `${c} cycles`)
  const withoutEnd = keys.filter((key) => key.at < 1 || keys.length === 1)

  if (after === 'repeat' && keys.length > 1 && typeof first.value === 'number') {
    const numeric = motion as unknown as Motion<number>
    const [closed = numeric] = closeGap([numeric], (gap) => reduceGap(gap, property.equivalence))
    // A straight way is nothing but gap: closed so, it would rest.
    if (extent(closed) > MIN_EXTENT_LEFT * extent(numeric))
      offer(
        'close',
        'Close it: the gap between the last key and the first is spread over the cycle',
        closed as unknown as Motion<V>,
      )
    offer('close', 'Close it: it goes back over the last third of the cycle', wayBack(motion))
  }
  if (turnsBack(motion, property))
    offer('carry-on', 'Carry on instead of turning back: accumulate, with the last key at the end of the cycle', {
      ...motion,
      keys: keys.map((key, i) => (i === keys.length - 1 ? { ...key, at: 1 } : key)),
      after: 'accumulate',
    })
  if (after !== 'accumulate' && withoutEnd.length > 1)
    offer('repeat', `Repeat, ${cyclesWord(nearCycles)} per loop; the first key is the closing value`, {
      ...motion,
      keys: withoutEnd,
      after: 'repeat',
      period: tied,
    })
  if (!isTied(period)) {
    offer('tie', `Tie to the loop: ${cyclesWord(nearCycles)} of ${round(length / nearCycles)} frames`, {
      ...motion,
      period: tied,
    })
    if (after === 'once')
      offer('period', `Make the cycle ${length} frames long, so that its end is the closing frame`, {
        ...motion,
        period: { frames: length },
      })
  }
  if (after === 'accumulate' && typeof last.value === 'number' && property.equivalence) {
    const numeric = motion as unknown as Motion<number>
    const now = travel(numeric)
    const total = property.equivalence
    const multiples = Math.round((now * nearCycles) / total)
    for (const whole of new Set([multiples || Math.sign(now) || 1, Math.ceil((now * nearCycles) / total) || 1])) {
      const wanted = (whole * total) / nearCycles
      offer('travel', `Travel ${round(wanted)}${unit} per cycle instead of ${round(now)}${unit}`, {
        ...stretchTravel(numeric, wanted),
        period: tied,
      } as unknown as Motion<V>)
    }
    for (let cycles = 1; cycles <= length / 2; cycles++)
      if (Math.abs(reduceGap(now * cycles, total)) <= property.threshold / 4) {
        offer('cycles', `${cyclesWord(cycles)} of ${round(now)}${unit} per loop`, { ...motion, period: { cycles } })
        break
      }
  }
  if (after === 'accumulate' && keys.some(({ ease }) => ease !== 'linear'))
    offer('even', 'Make the speed even: linear from key to key', {
      ...motion,
      keys: keys.map((key) => ({ ...key, ease: 'linear' })),
    })
  if (after === 'alternate' && isTied(period))
    for (const cycles of [period.cycles + 1, period.cycles - 1].filter((c) => c > 0))
      offer('cycles', `${cyclesWord(cycles)} per loop, so that each way there has its way back`, {
        ...motion,
        period: { cycles },
      })
  if (after === 'once' || after === 'accumulate')
    offer('match-ends', 'Give the last key the value of the first', {
      ...motion,
      keys: keys.map((key, i) => (i === keys.length - 1 && i > 0 ? { ...key, value: first.value } : key)),
    })
  if ((after === 'once' || after === 'accumulate') && keys.length > 1)
    offer('close', 'Go there and back: it comes back over the last third of the cycle', {
      ...wayBack(motion),
      after: 'repeat',
      period: tied,
    })

  const known = new Set([JSON.stringify(motion)])
  return found.filter((remedy) => {
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
