import { type Ease, easeAt, SNAP } from './ease'

/** Behaviour after each cycle; the words are those of CSS and SMIL. */
export const AFTER_EACH_CYCLE = ['repeat', 'accumulate', 'alternate', 'once'] as const
export type AfterEachCycle = (typeof AFTER_EACH_CYCLE)[number]

/** A number in the property's unit, several of them such as a point, or a CSS colour. */
export type MovingValue = number | string | readonly number[]

/** A value fixed at a point of the cycle. `ease` leads to the next key. */
export interface Key<V extends MovingValue = MovingValue> {
  /** Share of the cycle, 0 … 1; in `repeat` below 1, since there the closing value is the first key's. */
  readonly at: number
  readonly value: V
  readonly ease: Ease
}

/** Length of one cycle: tied to the loop (a whole number of cycles), or free (in frames, fractions allowed). */
export type Period = { readonly cycles: number } | { readonly frames: number }

/** A property's change over time. Keys ascend; there is at least one. */
export interface Motion<V extends MovingValue = MovingValue> {
  readonly keys: readonly Key<V>[]
  readonly after: AfterEachCycle
  readonly period: Period
  /** Where in its cycle the motion starts, 0 … 1. */
  readonly phase: number
  /** The artist says that it is meant to rest where it is slowest. */
  readonly restMeant?: true
  /** The artist says that its sudden step, where it has one, is meant. */
  readonly cutMeant?: true
}

/** A motion that carries a property on evenly by `travelled` each time: a place, a turn, a position in a cycle. */
export const evenly = (travelled: number, cycles = 1): Motion => ({
  keys: [
    { at: 0, value: 0, ease: 'linear' },
    { at: 1, value: travelled, ease: 'linear' },
  ],
  after: 'accumulate',
  period: { cycles },
  phase: 0,
})

/** Linear mix of two values, t = 0 giving a; t may lie outside [0, 1]. */
export type Mix<V> = (a: V, b: V, t: number) => V
export const mixNumbers: Mix<number> = (a, b, t) => (t === 0 ? a : t === 1 ? b : a + (b - a) * t)

export const isTied = (period: Period): period is { readonly cycles: number } => 'cycles' in period

/** Period P in frames, for a loop of N frames. */
export const periodFrames = (period: Period, length: number): number =>
  isTied(period) ? length / period.cycles : period.frames

/**
 * Position in the cycles at an unreduced frame: q = n/P + φ, split into the whole cycle k and the share u of it. A
 * shift adds to the phase: it moves a staggered copy ahead, in cycles.
 */
export function cyclePosition(motion: Pick<Motion, 'period' | 'phase'>, frame: number, length: number, shift = 0) {
  const { period, phase } = motion
  const q = (isTied(period) ? (frame * period.cycles) / length : frame / period.frames) + phase + shift
  const cycle = Math.floor(q + SNAP)
  return { q, cycle, share: Math.max(0, q - cycle) }
}

/** v(u) over one cycle, u ∈ [0, 1]. `repeat` runs on from the last key to the first; the others rest at both ends. */
export function curveValue<V extends MovingValue>(motion: Motion<V>, u: number, mix: Mix<V>): V {
  const { keys, after } = motion
  const first = keys[0] as Key<V>
  const last = keys[keys.length - 1] as Key<V>
  let next = 0
  while (next < keys.length && (keys[next] as Key<V>).at <= u + SNAP) next++
  if (next > 0 && next < keys.length) return between(keys[next - 1] as Key<V>, keys[next] as Key<V>, u, mix)
  if (after !== 'repeat' || keys.length === 1) return next === 0 ? first.value : last.value
  return next === 0
    ? between({ ...last, at: last.at - 1 }, first, u, mix)
    : between(last, { ...first, at: first.at + 1 }, u, mix)
}

function between<V extends MovingValue>(from: Key<V>, to: Key<V>, u: number, mix: Mix<V>): V {
  const t = (u - from.at) / (to.at - from.at)
  return t >= 1 ? to.value : mix(from.value, to.value, easeAt(from.ease, Math.max(0, t)))
}

/**
 * Amount that one cycle adds if the motion carries on: v(1) − v(0), by the outermost keys. (An ease that jumps at its
 * start has left v(0) at once; the key still says where the cycle began.)
 */
export const travel = ({ keys, after }: Motion<number>): number =>
  after === 'accumulate' ? (keys.at(-1)?.value ?? 0) - (keys[0]?.value ?? 0) : 0

/** A value plus the amount that the motion adds in the given number of cycles, if it carries on; colours cannot. */
export function carried<V extends MovingValue>(motion: Motion<V>, value: V, cycles: number): V {
  if (cycles === 0 || motion.after !== 'accumulate' || typeof value === 'string') return value
  if (typeof value === 'number') return (value + cycles * travel(motion as Motion<number>)) as V
  const [first, last] = [motion.keys[0], motion.keys.at(-1)].map((key) => key?.value as readonly number[])
  return value.map((each, i) => each + cycles * ((last?.[i] ?? 0) - (first?.[i] ?? 0))) as unknown as V
}

/**
 * The value of a motion at an unreduced frame (any real number, also negative), in a loop of N frames.
 *
 * | after each cycle | value |
 * |---|---|
 * | repeat | v(u) |
 * | accumulate | v(u) + k·(v(1) − v(0)) |
 * | alternate | v(u) for even k, v(1 − u) for odd k |
 * | once | v(min(q, 1)), and v(0) before the first cycle |
 */
export function motionValue<V extends MovingValue>(
  motion: Motion<V>,
  frame: number,
  length: number,
  mix: Mix<V>,
  shift = 0,
): V {
  const { q, cycle, share } = cyclePosition(motion, frame, length, shift)
  switch (motion.after) {
    case 'repeat':
      return curveValue(motion, share, mix)
    case 'accumulate':
      return carried(motion, curveValue(motion, share, mix), cycle)
    case 'alternate':
      return curveValue(motion, cycle % 2 === 0 ? share : 1 - share, mix)
    case 'once':
      return curveValue(motion, Math.min(1, Math.max(0, q)), mix)
  }
}
