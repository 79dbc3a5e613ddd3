import { type Fraction, MAX_LENGTH, toNumber } from '../clock'
import { allLayers, changeLayer, type Layer, type Loop, referencesOf } from '../document'
import { type FitMotion, fillDuration } from '../fit'
import { layerKind } from '../layers'
import { clipSeconds, mediumKind } from '../media'
import { isEven, type Motion, periodFrames, stretchTravel, travel } from '../motion'
import { checkMotions, type MotionReport } from './closing'
import { changeAllTimes, repeatLoop, stretchLoop } from './timing'

/** Timed things with a period: a motion, a tremble or an event; the last two always repeat a whole number of times. */
export type Timed = 'motion' | 'tremble' | 'event'

/** A motion as the fit sees it, with what it is called. */
export interface FitRow extends FitMotion {
  readonly what: Timed
  readonly layerId: string
  readonly layer: string
  readonly name: string
  readonly label: string
  /** Cycles in the loop now; a free motion may have a broken number of them. */
  readonly cycles: number
}

/** More cycles than these are not looked through for one after which a motion is home. */
const MAX_ROUNDS = 720

/**
 * Number of like parts of a whole cycle of an even motion: it looks the same again after each. 1/k if it carries on by
 * an amount of which only every k-th multiple looks the same: steps of 6° are home after sixty.
 */
export function foldOf({ motion, equivalence }: Pick<MotionReport, 'motion' | 'equivalence'>): number {
  if (motion.after !== 'accumulate' || !equivalence) return 1
  const share = Math.abs(travel(motion as Motion<number>)) / equivalence
  const whole = Math.round(share)
  if (whole >= 1 && Math.abs(share - whole) < 1e-6) return isEven(motion.keys) ? whole : 1
  for (let rounds = 2; rounds <= MAX_ROUNDS && share > 0; rounds++)
    if (Math.abs(rounds * share - Math.round(rounds * share)) < 1e-6) return 1 / rounds
  return 1
}

/** Number of whole cycles at which something of the given duration, in seconds, fits a loop best at its own pace. */
export const nearestCycles = (outer: Pick<Loop, 'length' | 'rate'>, seconds: number): number =>
  Math.min(MAX_LENGTH, Math.max(1, Math.round(outer.length / toNumber(outer.rate) / seconds)))

/** How long one cycle of what a layer plays lasts as it was made, s; null where it plays neither a clip nor a placed loop. */
function madeSeconds({ loops, media }: Loop, layer: Layer): number | null {
  for (const { to, id } of referencesOf(layer)) {
    const placed = to === 'loop' && loops.find((each) => each.id === id)
    if (placed) return placed.length / toNumber(placed.rate)
    const medium = media.find((each) => each.id === id && each.kind === to)
    const delaysMs = medium && mediumKind(medium.kind)?.delaysMs?.(medium)
    if (delaysMs) return Math.max(1e-3, clipSeconds({ delaysMs }))
  }
  return null
}

/**
 * Frames of one cycle that are wanted of a motion, as long as nobody says others: what plays, and runs as often as comes nearest to its own pace, is to have
 * that; all else is to stay as it is.
 */
function wantedFrames(loop: Loop, { layer, name, motion }: MotionReport): number {
  const now = periodFrames(motion.period, loop.length)
  const seconds = layerKind(layer.kind).running === name ? madeSeconds(loop, layer) : null
  if (seconds === null || Math.abs(loop.length / now - nearestCycles(loop, seconds)) > 1e-9) return now
  // Seconds of a clip are a sum: without its last digits.
  return Math.round(seconds * toNumber(loop.rate) * 1e6) / 1e6
}

/** The motions of a loop itself, then what trembles and what happens in it, with the periods that are wanted of them. */
export function fitRows(loop: Loop): FitRow[] {
  const { length } = loop
  const motions = checkMotions(loop)
    .filter(({ inside }) => inside === null)
    .map((report): FitRow => {
      const { layer, name, property, motion } = report
      const frames = periodFrames(motion.period, length)
      const what = { what: 'motion', layerId: layer.id, layer: layer.name, name, label: property.label } as const
      return { ...what, frames: wantedFrames(loop, report), fold: foldOf(report), cycles: length / frames }
    })
  const others = allLayers(loop).flatMap((layer) => {
    const { properties } = layerKind(layer.kind)
    const rows = (what: Timed, timed: Readonly<Record<string, { readonly cycles: number }>> = {}) =>
      Object.entries(timed).map(([name, { cycles }]): FitRow => {
        const label = `${properties[name]?.label ?? name}, ${what === 'tremble' ? 'its tremble' : 'what happens'}`
        return {
          what,
          layerId: layer.id,
          layer: layer.name,
          name,
          label,
          frames: length / cycles,
          fold: 1,
          cycles,
        }
      })
    return [...rows('tremble', layer.trembles), ...rows('event', layer.events)]
  })
  return [...motions, ...others]
}

/** A layer with another count of cycles of one of its motions, trembles or events. */
export function withCount(layer: Layer, { what, name }: Pick<FitRow, 'what' | 'name'>, cycles: number): Layer {
  const whole = Math.max(1, Math.round(cycles))
  const motion = what === 'motion' && layer.motions[name]
  if (motion) return { ...layer, motions: { ...layer.motions, [name]: withCycles(motion, cycles) } }
  const tremble = what === 'tremble' && layer.trembles?.[name]
  if (tremble) return { ...layer, trembles: { ...layer.trembles, [name]: { ...tremble, cycles: whole } } }
  const event = what === 'event' && layer.events?.[name]
  return event ? { ...layer, events: { ...layer.events, [name]: { ...event, cycles: whole } } } : layer
}

/** Result of a fit for one motion, tremble or event. */
export interface Fitted {
  readonly what?: Timed
  readonly layerId: string
  readonly name: string
  /** Whole, or a multiple of 1/fold. */
  readonly cycles: number
}

/**
 * A motion with the given number of cycles in the loop; a part of a cycle of an even motion becomes a shorter way
 * instead.
 */
function withCycles(motion: Motion, cycles: number): Motion {
  const whole = Math.max(1, Math.round(cycles))
  if (Math.abs(cycles - whole) < 1e-9) return { ...motion, period: { cycles: whole } }
  const wanted = (travel(motion as Motion<number>) * cycles) / whole
  return { ...stretchTravel(motion as Motion<number>, wanted), period: { cycles: whole } }
}

/** The loop at a length with the cycles that a fit found for its motions; trembles and events keep their pace as well as they can. */
export function applyFit(loop: Loop, length: number, fitted: readonly Fitted[]): Loop {
  const whole = (cycles: number) => Math.max(1, Math.round((cycles * length) / loop.length))
  const paced = changeAllTimes(loop, {
    motion: (motion) => motion,
    tremble: (each) => ({ ...each, cycles: whole(each.cycles) }),
    event: (each) => ({ ...each, cycles: whole(each.cycles) }),
  })
  const changed = fitted.reduce(
    (current, { what = 'motion', layerId, name, cycles }) =>
      changeLayer(current, layerId, (layer) => withCount(layer, { what, name }, cycles)),
    paced,
  )
  return { ...changed, length }
}

/** The ways to fill a duration with a loop: fillDuration, with the loops that result. */
export function fillWith(loop: Loop, duration: Fraction) {
  const fill = fillDuration(duration, loop.length, loop.rate, MAX_LENGTH)
  const repeated = (repeats: number) => (repeats * loop.length <= MAX_LENGTH ? repeatLoop(loop, repeats) : null)
  const ways = [fill.below, fill.above].flatMap((each) =>
    each ? [{ ...each, length: loop.length, speed: 1, loop: repeated(each.repeats) }] : [],
  )
  const exact = fill.exact.map((each) => ({
    repeats: each.repeats,
    seconds: duration,
    length: each.length,
    speed: each.speed,
    loop: each.length * each.repeats <= MAX_LENGTH ? repeatLoop(stretchLoop(loop, each.length), each.repeats) : null,
  }))
  return [...ways, ...exact.filter(({ speed }) => speed > 0.5 && speed < 2)]
}

/** Seconds of one cycle. */
export const secondsOfFrames = (frames: number, rate: Fraction): number => frames / toNumber(rate)
