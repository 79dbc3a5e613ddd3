import { boundNumber } from '../bounds'
import type { Layer } from '../document'
import { layerKind, mixingOf, type Property } from '../layers'
import {
  type AfterEachCycle,
  carried,
  cyclePosition,
  type Ease,
  type Key,
  type Motion,
  type MotionEvent,
  type MovingValue,
  periodFrames,
  type Tremble,
} from '../motion'

/**
 * The motion that a property starts with: tied to the loop, one cycle. What turns carries on by a whole turn at an
 * even pace; everything else goes somewhere and comes back, so that both come home by construction.
 */
export function newMotion(property: Property, value: MovingValue): Motion {
  const { to, carriesOn } = mixingOf(property).start(property, value)
  const ease = carriesOn ? 'linear' : 'ease-in-out'
  return {
    period: { cycles: 1 },
    phase: 0,
    after: carriesOn ? 'accumulate' : 'repeat',
    keys: [
      { at: 0, value, ease },
      { at: carriesOn ? 1 : 0.5, value: to, ease },
    ],
  }
}

/** A playhead so near to a key, in frames, stands on it. */
const ON_KEY_FRAMES = 1 / 1000

const bounded = (value: MovingValue): MovingValue =>
  typeof value === 'number' ? boundNumber(value) : typeof value === 'string' ? value : value.map(boundNumber)

const sorted = (keys: readonly Key[]): readonly Key[] => [...keys].sort((a, b) => a.at - b.at)

/** The latest place a key may have: in `repeat` the end of the cycle belongs to the first key. */
export const lastPlace = (after: AfterEachCycle, length: number) => (after === 'repeat' ? 1 - 1 / (64 * length) : 1)

/** Where in its cycle a motion stands at a frame, and which cycle that is. At the very end of `once` it is 1. */
function keyPlace(motion: Motion, frame: number, length: number): { at: number; cycle: number } {
  const { q, cycle, share } = cyclePosition(motion, frame, length)
  if (motion.after === 'once') return { at: Math.min(1, Math.max(0, q)), cycle: 0 }
  const back = motion.after === 'alternate' && cycle % 2 !== 0
  return { at: back ? 1 - share : share, cycle }
}

/** The motion with a key of this value at a frame: the key that is there gets the value, else a new one is made. */
export function setKeyAtFrame(motion: Motion, value: MovingValue, frame: number, length: number): Motion {
  const { at, cycle } = keyPlace(motion, frame, length)
  const own = bounded(carried(motion, value, -cycle))
  const near = ON_KEY_FRAMES / periodFrames(motion.period, length)
  const index = motion.keys.findIndex((key) => Math.abs(key.at - at) < near)
  if (index >= 0) return changeKey(motion, index, { value: own }, length)
  const previous = motion.keys.findLast((key) => key.at < at) ?? motion.keys.at(-1)
  const added: Key = { at, value: own, ease: previous?.ease ?? 'linear' }
  return { ...motion, keys: sorted([...motion.keys, added]) }
}

/**
 * The motion with one key changed. A key keeps its place between its neighbours and inside the cycle; `at` may be
 * given beyond them and is then held back.
 */
export function changeKey(
  motion: Motion,
  index: number,
  change: { readonly at?: number; readonly value?: MovingValue; readonly ease?: Ease },
  length: number,
): Motion {
  const key = motion.keys[index]
  if (!key) return motion
  const gap = 1 / (64 * length)
  const low = index === 0 ? 0 : (motion.keys[index - 1]?.at ?? 0) + gap
  const high = Math.min(lastPlace(motion.after, length), (motion.keys[index + 1]?.at ?? 2) - gap)
  const at = change.at === undefined ? key.at : Math.min(Math.max(change.at, low), Math.max(low, high))
  const next = { at, value: bounded(change.value ?? key.value), ease: change.ease ?? key.ease }
  return { ...motion, keys: motion.keys.map((each, i) => (i === index ? next : each)) }
}

/** The motion without one key; the last key stays. */
export const removeKey = (motion: Motion, index: number): Motion =>
  motion.keys.length === 1 ? motion : { ...motion, keys: motion.keys.filter((_, i) => i !== index) }

/**
 * The motion with another rule after each cycle. `repeat` has its first key as closing value, so a key at the
 * cycle's end is left out; the others get one there, since they close with it: on the way out again for `repeat`
 * motion, so that it looks the same.
 */
export function setAfter(motion: Motion, after: AfterEachCycle): Motion {
  if (after === motion.after) return motion
  const [first] = motion.keys
  if (!first) return motion
  if (after === 'repeat') {
    const kept = motion.keys.filter((key) => key.at < 1)
    return { ...motion, after, keys: kept.length > 0 ? kept : [{ ...first, at: 0 }] }
  }
  const closed = motion.after !== 'repeat' || motion.keys.at(-1)?.at === 1
  const keys = closed ? motion.keys : [...motion.keys, { at: 1, value: first.value, ease: 'linear' }]
  return { ...motion, after, keys }
}

/** The layer with a motion for a property, replacing the one it has; null takes the motion away and leaves its value. */
export function setMotion(layer: Layer, name: string, motion: Motion | null, valueLeft?: MovingValue): Layer {
  if (!layerKind(layer.kind).properties[name]?.moves) throw new RangeError(`${name} of ${layer.kind} does not move`)
  // A motion has a key at least: what would take its last one away leaves it as it was.
  if (motion && motion.keys.length === 0) return layer
  if (motion) return { ...layer, motions: { ...layer.motions, [name]: motion } }
  const { [name]: _gone, ...motions } = layer.motions
  return { ...layer, motions, values: { ...layer.values, ...(valueLeft === undefined ? {} : { [name]: valueLeft }) } }
}

const without = <T>(record: Readonly<Record<string, T>> | undefined, name: string): Readonly<Record<string, T>> => {
  const { [name]: _gone, ...rest } = record ?? {}
  return rest
}

/** The layer with a tremble of a property; null takes it away. @throws RangeError for one that does not move. */
export function setTremble(layer: Layer, name: string, tremble: Tremble | null): Layer {
  if (!layerKind(layer.kind).properties[name]?.moves) throw new RangeError(`${name} of ${layer.kind} does not tremble`)
  return { ...layer, trembles: tremble ? { ...layer.trembles, [name]: tremble } : without(layer.trembles, name) }
}

/** The layer with an event of a property; null takes it away. @throws RangeError for one that does not move. */
export function setEvent(layer: Layer, name: string, event: MotionEvent | null): Layer {
  if (!layerKind(layer.kind).properties[name]?.moves) throw new RangeError(`${name} of ${layer.kind} does not move`)
  return { ...layer, events: event ? { ...layer.events, [name]: event } : without(layer.events, name) }
}

/** The tremble that a property starts with: a tenth of what a new motion swings, or a part of the way to white. */
export const newTremble = (property: Property): Tremble => ({
  amount: mixingOf(property).tremble(property),
  detail: 6,
  cycles: 1,
  seed: 1,
  phase: 0,
})

/** The event that a property starts with: a blink of three frames in the middle of the loop. */
export function newEvent(property: Property, value: MovingValue, length: number): MotionEvent {
  const frames = Math.min(3, length)
  return { value: mixingOf(property).flash(property, value), frames, at: [0.5], cycles: 1 }
}

/** Names of the properties of a layer that move in any way, in the order in which its kind lists them. */
export const movingNames = (layer: Layer): string[] =>
  Object.keys(layerKind(layer.kind).properties).filter(
    (name) => layer.motions[name] ?? layer.trembles?.[name] ?? layer.events?.[name],
  )
