import { leapsAtEnd } from '../statistics'
import { parseEase } from './ease'
import { type Key, type Motion, type MovingValue, motionValue, periodFrames } from './motion'

/** Facts of a property that the coming-home check needs. */
export interface MovingProperty<V extends MovingValue> {
  readonly mix: (a: V, b: V, t: number) => V
  /** How far b lies from a, in the property's unit; signed for numbers, a length ≥ 0 for colours. */
  readonly distance: (a: V, b: V) => number
  /** Values that differ by a multiple of this look the same; undefined where only equal ones do. */
  readonly equivalence?: number | undefined
  /** The largest gap that no eye sees, in the property's unit. */
  readonly threshold: number
}

/** Whether, and how evenly, one motion comes home. */
export interface HomeReport {
  readonly home: boolean
  /** v(N) − v(0), reduced by the equivalence to (−m/2, m/2]; in the property's unit. */
  readonly gap: number
  /**
   * The step by which it gets back to where it began, where that is out of family with its own speed: the way from the last
   * key back to the first is part of the motion. Then it does not come home, and the gap is this step; null where it does not leap.
   */
  readonly leap: number | null
  /** m, by which the gap was reduced; null where only equal values look the same. */
  readonly equivalence: number | null
  /**
   * True when the motion also goes on as it began: at N + x it looks as at x, for every x. `once` stops, `alternate` may
   * be on its way back and a free period in mid-cycle, although they happen to be where they started.
   */
  readonly goesOn: boolean
  /** True when frame N−1 already shows what frame 0 shows, although the motion does not rest there by itself. */
  readonly repeatsFrame: boolean
  /** Difference of the one-sided speeds at the seam, as a share of the greatest speed: a kink, visible, not a jump. */
  readonly kink: number
  /** Least speed as a share of the greatest over the loop, for motion that carries on; null otherwise. */
  readonly evenness: number | null
  /** True when motion that carries on slows down towards the seam. */
  readonly hesitates: boolean
  /** True where it turns back the long way at the end of each cycle, from a whole turn to none, instead of going on. */
  readonly longWay: boolean
  /** |speed| at each frame, units per frame: N values, the last one leading to the closing frame. */
  readonly speeds: readonly number[]
}

/** A gap reduced modulo m to (−m/2, m/2]. Without an equivalence it is returned as it is. */
export function reduceGap(gap: number, equivalence?: number): number {
  if (!equivalence) return gap
  const reduced = gap - equivalence * Math.ceil(gap / equivalence - 0.5 - 1e-12)
  return reduced + 0
}

const HESITATION = 0.2
const SLOPE_FRAMES = 1 / 64

/**
 * Checks one motion of a loop of N frames against its own values at unreduced time.
 * `gapAllowed` reduces the raw gap v(N) − v(0) in place of the equivalence, for properties that come home jointly.
 */
export function checkHome<V extends MovingValue>(
  motion: Motion<V>,
  length: number,
  property: MovingProperty<V>,
  gapAllowed?: (rawGap: number) => number,
): HomeReport {
  const at = (frame: number) => motionValue(motion, frame, length, property.mix)
  const between = (a: number, b: number) => property.distance(at(a), at(b))
  const rawGap = between(0, length)
  const leap = gapAllowed ? null : leapOf(motion, length, property)
  const ends = gapAllowed ? gapAllowed(rawGap) : reduceGap(rawGap, property.equivalence)
  const gap = leap ?? ends
  const home = Math.abs(gap) <= property.threshold

  const speeds = Array.from({ length }, (_, n) => Math.abs(between(n, n + 1)))
  const greatest = Math.max(...speeds)
  const before = between(length - SLOPE_FRAMES, length) / SLOPE_FRAMES
  const after = between(0, SLOPE_FRAMES) / SLOPE_FRAMES
  const kink = greatest > 0 ? Math.abs(after - before) / greatest : 0

  const carries = motion.after === 'accumulate' && greatest > 0
  const ticks = motion.keys.some(({ ease }) => ['hold', 'steps'].includes(parseEase(ease)?.type ?? ''))
  const evenness = carries ? Math.min(...speeds) / greatest : null
  const seamSpeed = Math.max(speeds[0] ?? 0, speeds[length - 1] ?? 0)
  const hesitates = carries && !ticks && home && length > 2 && seamSpeed < HESITATION * greatest

  const equivalence = property.equivalence ?? null
  return {
    home,
    gap,
    leap,
    equivalence,
    goesOn: goesOn(motion, length, property, home),
    repeatsFrame: repeatsFrame(motion, length, property, home),
    kink,
    longWay: turnsBack(motion, property),
    evenness,
    hesitates,
    speeds,
  }
}

/** A cycle of fewer frames than this says nothing of its own speed. */
const MIN_CYCLE = 3
/** Steps of one cycle that are looked at, at the most. */
const MAX_STEPS = 2400

/**
 * The step by which a repeating motion leads back to its first value, where it is over one and a half of every other, or one of two
 * that stand far above all others. Looked at over its own cycle, wherever that begins and however often it comes;
 * steps are reduced by the equivalence.
 */
function leapOf<V extends MovingValue>(motion: Motion<V>, length: number, property: MovingProperty<V>): number | null {
  if (motion.after !== 'repeat' || motion.keys.length < 2) return null
  const count = Math.min(MAX_STEPS, Math.round(periodFrames(motion.period, length)))
  if (count < MIN_CYCLE) return null
  const cycle = { ...motion, phase: 0, period: { frames: count } }
  const at = (frame: number) => motionValue(cycle, frame, count, property.mix)
  const steps = Array.from({ length: count }, (_, n) =>
    reduceGap(property.distance(at(n), at(n + 1)), property.equivalence),
  )
  const back = steps[count - 1] as number
  return Math.abs(back) > property.threshold && leapsAtEnd(steps.map(Math.abs)) ? back : null
}

/** A repeating motion whose last key looks like its first but is another value: 360° after 0°. */
export function turnsBack<V extends MovingValue>(
  { keys, after }: Motion<V>,
  { equivalence: m }: MovingProperty<V>,
): boolean {
  const first = keys[0]?.value
  const last = keys.at(-1)?.value
  if (after !== 'repeat' || !m || typeof first !== 'number' || typeof last !== 'number') return false
  const way = Math.abs(last - first)
  return way >= m * 0.999 && Math.abs(reduceGap(way, m)) < 1e-3 * m
}

function goesOn<V extends MovingValue>(
  { keys, period, after }: Motion<V>,
  length: number,
  { distance }: MovingProperty<V>,
  home: boolean,
): boolean {
  const [first] = keys
  if (first && keys.every(({ value }) => distance(first.value, value) === 0)) return true
  const cycles = length / periodFrames(period, length)
  const whole = Math.round(cycles)
  if (Math.abs(cycles - whole) > 1e-9) return home && after === 'accumulate' && isEven(keys)
  switch (after) {
    case 'repeat':
      return true
    case 'accumulate':
      return home
    case 'alternate':
      return whole % 2 === 0
    case 'once':
      return false
  }
}

/** Whether keys carry on at one and the same speed through the whole cycle. */
export function isEven<V extends MovingValue>(keys: readonly Key<V>[]): boolean {
  const first = keys[0]
  const last = keys.at(-1)
  if (first?.at !== 0 || last?.at !== 1) return false
  const rise = Number(last.value) - Number(first.value)
  return keys.every(
    ({ at, value, ease }) => ease === 'linear' && Math.abs(Number(value) - Number(first.value) - rise * at) < 1e-9,
  )
}

/**
 * Frame N−1 equals frame 0 although the motion comes from somewhere and goes on: the sign of both ends keyed alike.
 * Between the two it either rests (and rests nowhere else, or the hold is its own cadence), or it does not come home.
 * A turning point that happens to lie between the two frames is not meant: there the curve goes on in between.
 */
function repeatsFrame<V extends MovingValue>(
  motion: Motion<V>,
  length: number,
  property: MovingProperty<V>,
  home: boolean,
): boolean {
  if (length < 4) return false
  const at = (frame: number) => motionValue(motion, frame, length, property.mix)
  const step = (a: number, b: number) => Math.abs(reduceGap(property.distance(at(a), at(b)), property.equivalence))
  const seen = property.threshold
  if (step(length - 1, 0) > seen || step(length - 2, length - 1) <= seen || step(0, 1) <= seen) return false
  if (!home) return true
  const holds = (n: number) => step(n, n + 1) <= seen && step(n, n + 0.5) < 0.05 * step(0, 1)
  return holds(length - 1) && !Array.from({ length: length - 2 }, (_, n) => n).some(holds)
}
