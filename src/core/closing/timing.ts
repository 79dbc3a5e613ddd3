import { type Clock, fraction, loopSeconds, MAX_LENGTH, multiply, roundFraction } from '../clock'
import type { Layer, Loop } from '../document'
import { changeLayer, findLayer } from '../document'
import { speedError } from '../fit'
import { isTied, type Motion, type MotionEvent, periodFrames, type Tremble } from '../motion'

/** Change of everything that takes time in a layer and in its children. */
export interface TimeChange {
  readonly motion: (motion: Motion, name: string, layer: Layer) => Motion
  readonly tremble?: (tremble: Tremble) => Tremble
  readonly event?: (event: MotionEvent) => MotionEvent
}

const mapEntries = <T>(record: Readonly<Record<string, T>>, change: (each: T, name: string) => T) =>
  Object.fromEntries(Object.entries(record).map(([name, each]) => [name, change(each, name)]))

/** A layer with its times changed, and all it holds. */
function changeTimes(layer: Layer, change: TimeChange): Layer {
  const { motion, tremble, event } = change
  return {
    ...layer,
    motions: mapEntries(layer.motions, (each, name) => motion(each, name, layer)),
    ...(layer.trembles && tremble ? { trembles: mapEntries(layer.trembles, tremble) } : {}),
    ...(layer.events && event ? { events: mapEntries(layer.events, event) } : {}),
    ...(layer.layers ? { layers: layer.layers.map((child) => changeTimes(child, change)) } : {}),
  }
}

export const changeAllTimes = (loop: Loop, change: TimeChange): Loop => ({
  ...loop,
  layers: loop.layers.map((layer) => changeTimes(layer, change)),
})

const moreCycles = <T extends { readonly cycles: number }>(each: T, times: number): T => ({
  ...each,
  cycles: each.cycles * times,
})

/** `once` in a loop that is repeated starts over with every repeat: it becomes a cycle as long as the loop was. */
function onceAsRepeat(motion: Motion, length: number): Motion {
  const cycles = length / periodFrames(motion.period, length)
  if (motion.phase !== 0 || cycles < 1) return motion
  const keys = motion.keys.map((key) => ({ ...key, at: key.at / cycles })).filter(({ at }) => at < 1)
  const last = keys.at(-1)
  const held = last && keys.length > 1 ? [...keys.slice(0, -1), { ...last, ease: 'hold' }] : keys
  return { ...motion, keys: held, after: 'repeat', period: { cycles: 1 } }
}

/** The loop as many times after itself: longer, with as many more cycles of everything that is tied to it. */
export function repeatLoop(loop: Loop, times: number): Loop {
  if (times === 1) return loop
  const longer = changeAllTimes(loop, {
    motion: (each) => {
      const motion = each.after === 'once' ? onceAsRepeat(each, loop.length) : each
      return isTied(motion.period) ? { ...motion, period: moreCycles(motion.period, times) } : motion
    },
    tremble: (each) => moreCycles(each, times),
    event: (each) => moreCycles(each, times),
  })
  return { ...longer, length: loop.length * times }
}

/** The loop at another length with the cycles kept: everything stretches. */
export function stretchLoop(loop: Loop, length: number): Loop {
  const factor = length / loop.length
  const stretched = changeAllTimes(loop, {
    motion: (motion) =>
      isTied(motion.period) ? motion : { ...motion, period: { frames: motion.period.frames * factor } },
    event: (event) => ({ ...event, frames: event.frames * factor }),
  })
  return { ...stretched, length }
}

/**
 * Quantity that is kept when rate or length change: the cycles in the loop, the seconds of each cycle, or its frames.
 */
export const CLOCK_MEANINGS = ['cycles', 'seconds', 'frames'] as const
export type ClockMeaning = (typeof CLOCK_MEANINGS)[number]

/** The loop with another clock, and the motions whose speed had to bend so that they still come home. */
export interface ClockResult {
  readonly loop: Loop
  readonly bent: readonly {
    readonly layer: string
    readonly name: string
    readonly cycles: number
    /** |wanted speed / speed − 1| */
    readonly error: number
  }[]
}

/**
 * The loop with a wanted rate and length, in one of three meanings. Nothing is drawn anew from pixels: motions are.
 * - `cycles`: rate and length as wanted, as many cycles as before: everything stretches.
 * - `seconds`: the loop lasts as long as before, with more or fewer frames; a changed length alone changes the rate.
 * - `frames`: every cycle keeps its frames; as many cycles as then fit, the nearest whole number of them.
 */
export function changeLoopClock(loop: Loop, wanted: Clock, meaning: ClockMeaning): ClockResult {
  if (meaning === 'cycles') return { loop: { ...stretchLoop(loop, wanted.length), rate: wanted.rate }, bent: [] }
  if (meaning === 'seconds') {
    const seconds = loopSeconds(loop.length, loop.rate)
    const rateKept = wanted.rate.num === loop.rate.num && wanted.rate.den === loop.rate.den
    const length = rateKept
      ? wanted.length
      : Math.min(MAX_LENGTH, Math.max(1, roundFraction(multiply(seconds, wanted.rate))))
    const rate = rateKept ? multiply(fraction(length), fraction(seconds.den, seconds.num)) : wanted.rate
    return { loop: { ...stretchLoop(loop, length), rate }, bent: [] }
  }
  const bent: ClockResult['bent'][number][] = []
  const { length } = wanted
  const whole = (cycles: number) => Math.max(1, Math.round((cycles * length) / loop.length))
  const changed = changeAllTimes(loop, {
    motion: (motion, name, layer) => {
      if (!isTied(motion.period)) return motion
      const frames = periodFrames(motion.period, loop.length)
      const cycles = whole(motion.period.cycles)
      const error = speedError({ frames, fold: 1 }, length, cycles)
      if (error > 0) bent.push({ layer: layer.name, name, cycles, error })
      return { ...motion, period: { cycles } }
    },
    tremble: (each) => ({ ...each, cycles: whole(each.cycles) }),
    event: (each) => ({ ...each, cycles: whole(each.cycles) }),
  })
  return { loop: { ...changed, rate: wanted.rate, length }, bent }
}

/**
 * One motion slower or faster by a whole factor, everything else as it was. Where its cycles do not divide, the loop
 * becomes longer instead: below one cycle per loop that is the only way to slow down.
 */
export function changeSpeed(loop: Loop, layerId: string, name: string, factor: number, slower: boolean): Loop {
  const motion = findLayer(loop, layerId)?.motions[name]
  if (!motion) return loop
  const set = (current: Loop, period: Motion['period']) => withPeriod(current, layerId, name, period)
  const { period } = motion
  if (!isTied(period)) return set(loop, { frames: slower ? period.frames * factor : period.frames / factor })
  if (!slower) return set(loop, { cycles: period.cycles * factor })
  if (period.cycles % factor === 0) return set(loop, { cycles: period.cycles / factor })
  return set(repeatLoop(loop, factor), { cycles: period.cycles })
}

const withPeriod = (loop: Loop, layerId: string, name: string, period: Motion['period']): Loop =>
  changeLayer(loop, layerId, (layer) => {
    const motion = layer.motions[name]
    return motion ? { ...layer, motions: { ...layer.motions, [name]: { ...motion, period } } } : layer
  })

/** Numbers that differ by less are one. */
const SAME = 1e-6

/**
 * Sets the cycles of one motion. A whole number is tied to the loop. For a half, a third … the loop becomes that many
 * times longer, and everything else keeps its pace. With any other fraction the motion is free, and does not come home.
 * @throws RangeError if the number is not above 0, or the loop would be too long
 */
export function setCycles(loop: Loop, layerId: string, name: string, cycles: number): Loop {
  if (!(cycles > 0) || !Number.isFinite(cycles)) throw new RangeError('there is more than no cycle in a loop')
  const whole = Math.round(cycles)
  if (whole >= 1 && Math.abs(cycles - whole) < SAME) return withPeriod(loop, layerId, name, { cycles: whole })
  const times = Math.round(1 / cycles)
  if (cycles < 1 && Math.abs(times * cycles - 1) < SAME) {
    if (times * loop.length > MAX_LENGTH)
      throw new RangeError(`a loop ${times} times as long would have more than ${MAX_LENGTH} frames`)
    return withPeriod(repeatLoop(loop, times), layerId, name, { cycles: 1 })
  }
  return withPeriod(loop, layerId, name, { frames: loop.length / cycles })
}
