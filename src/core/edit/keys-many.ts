import { boundNumber } from '../bounds'
import type { Layer } from '../document'
import { layerKind } from '../layers'
import {
  bend,
  type Ease,
  type Key,
  type Motion,
  type MovingValue,
  movedPhase,
  periodFrames,
  reversedKeys,
  splitEase,
  withPeriod,
} from '../motion'
import { lastPlace, setKeyAtFrame } from './keys'

/** Indices of keys of one motion. */
export type KeyChoice = readonly number[]

/** Least distance between keys, as a share of the cycle. */
const gapOf = (length: number) => 1 / (64 * length)

/** The chosen keys put elsewhere in the cycle, as far as their neighbours let them all. */
function replaced(motion: Motion, choice: KeyChoice, place: (at: number) => number, length: number): Motion {
  const chosen = new Set(choice)
  const keys = motion.keys.map((key, i) => (chosen.has(i) ? { ...key, at: place(key.at) } : key))
  const gap = gapOf(length)
  const last = lastPlace(motion.after, length)
  const fits = keys.every(
    ({ at }, i) =>
      at >= 0 && at <= Math.max(last, motion.keys[i]?.at ?? 0) && (i === 0 || at - (keys[i - 1]?.at ?? 0) >= gap / 2),
  )
  return fits ? { ...motion, keys } : motion
}

/**
 * The motion with several keys moved by the same time, in frames, and value. They stop where the first of them would
 * run into a key that stays, or out of the cycle.
 */
export function moveKeys(motion: Motion, choice: KeyChoice, frames: number, by: number, length: number): Motion {
  const chosen = new Set(choice)
  const gap = gapOf(length)
  const last = lastPlace(motion.after, length)
  let low = -Infinity
  let high = Infinity
  for (const [i, { at }] of motion.keys.entries()) {
    if (!chosen.has(i)) continue
    const before = motion.keys[i - 1]
    const after = motion.keys[i + 1]
    if (!before || !chosen.has(i - 1)) low = Math.max(low, (before ? before.at + gap : 0) - at)
    if (!after || !chosen.has(i + 1)) high = Math.min(high, (after ? after.at - gap : Math.max(last, at)) - at)
  }
  const wanted = boundNumber(frames) / periodFrames(motion.period, length)
  const shift = Math.min(Math.max(wanted, Math.min(0, low)), Math.max(0, high))
  return {
    ...motion,
    keys: motion.keys.map((key, i) =>
      chosen.has(i)
        ? { ...key, at: key.at + shift, value: typeof key.value === 'number' ? boundNumber(key.value + by) : key.value }
        : key,
    ),
  }
}

/**
 * The chosen keys stretched in time about the first of them, or the last, by a factor: slower above 1, faster below.
 * Unchanged where they would run into keys that stay, or out of the cycle.
 */
export function stretchKeys(
  motion: Motion,
  choice: KeyChoice,
  about: 'first' | 'last',
  factor: number,
  length: number,
): Motion {
  const places = choice.flatMap((i) => motion.keys[i]?.at ?? [])
  if (places.length < 2 || !(factor > 0)) return motion
  const still = about === 'first' ? Math.min(...places) : Math.max(...places)
  return replaced(motion, choice, (at) => still + (at - still) * factor, length)
}

/** The chosen keys in reverse order within the time that they take, each ease turned with them. */
export function reverseKeys(motion: Motion, choice: KeyChoice): Motion {
  const sorted = [...choice].sort((a, b) => a - b)
  const keys = sorted.flatMap((i) => motion.keys[i] ?? [])
  const first = keys[0]
  const last = keys.at(-1)
  if (!first || !last || keys.length < 2) return motion
  const whole = keys.length === motion.keys.length
  const span = { ...motion, after: 'once' as const }
  const turned = reversedKeys(
    keys.map((key) => ({ ...key, at: key.at - first.at })),
    span.after,
  ).map((key) => ({ ...key, at: first.at + (key.at - (1 - (last.at - first.at))) }))
  // The ease after the chosen keys is the one that followed them before, except for a whole cycle, which turns with its
  // own end.
  const out = whole && motion.after === 'repeat' ? (turned.at(-1)?.ease ?? last.ease) : last.ease
  const replacedKeys = new Map(
    sorted.map((index, i) => {
      const key = turned[i] as Key
      return [index, i === turned.length - 1 ? { ...key, ease: out } : key] as const
    }),
  )
  const all = motion.keys.map((key, i) => replacedKeys.get(i) ?? key).sort((a, b) => a.at - b.at)
  // Keys that stay in the midst of those that turn may be in their way.
  return all.every(({ at }, i) => i === 0 || at > (all[i - 1] as Key).at) ? { ...motion, keys: all } : motion
}

/** One ease for all chosen keys. */
export const easeKeys = (motion: Motion, choice: KeyChoice, ease: Ease): Motion => ({
  ...motion,
  keys: motion.keys.map((key, i) => (choice.includes(i) ? { ...key, ease } : key)),
})

/** The motion without the chosen keys; one key stays. */
export function removeKeys(motion: Motion, choice: KeyChoice): Motion {
  const kept = motion.keys.filter((_, i) => !choice.includes(i))
  return { ...motion, keys: kept.length > 0 ? kept : motion.keys.slice(0, 1) }
}

/** Keys on their way from one motion to another: how many frames after the first of them, and what. */
export interface CopiedKeys {
  readonly keys: readonly { readonly frames: number; readonly value: MovingValue; readonly ease: Ease }[]
}

export function copyKeys(motion: Motion, choice: KeyChoice, length: number): CopiedKeys {
  const period = periodFrames(motion.period, length)
  const keys = [...choice].sort((a, b) => a - b).flatMap((i) => motion.keys[i] ?? [])
  const start = keys[0]?.at ?? 0
  return { keys: keys.map(({ at, value, ease }) => ({ frames: (at - start) * period, value, ease })) }
}

/**
 * The motion with copied keys set from a frame on; those that are there already get the values. Keys that would lie in
 * another cycle, and those of another sort of value, are left out.
 */
export function pasteKeys(motion: Motion, { keys }: CopiedKeys, frame: number, length: number): Motion {
  const numeric = typeof motion.keys[0]?.value === 'number'
  const period = periodFrames(motion.period, length)
  const cycles = (at: number) => Math.floor(at / period + motion.phase + 1e-9)
  return keys.reduce((current, { frames, value, ease }) => {
    const at = frame + frames
    if ((typeof value === 'number') !== numeric || cycles(at) !== cycles(frame)) return current
    const set = setKeyAtFrame(current, value, at, length)
    const place = set.keys.findIndex((key, i) => key !== current.keys[i])
    return place < 0 ? set : easeKeys(set, [place], ease)
  }, motion)
}

/** The motion with a key on its curve at a place of its cycle; the curve stays as it is wherever its ease can be parted. */
export function keyOnCurve(motion: Motion, at: number, value: MovingValue, length: number): Motion {
  const gap = gapOf(length)
  if (at < 0 || at > lastPlace(motion.after, length) || motion.keys.some((key) => Math.abs(key.at - at) < gap))
    return motion
  const next = motion.keys.findIndex((key) => key.at > at)
  const index = next < 0 ? motion.keys.length : next
  const before = motion.keys[index - 1] ?? (motion.after === 'repeat' ? motion.keys.at(-1) : undefined)
  const after = motion.keys[index] ?? (motion.after === 'repeat' ? motion.keys[0] : undefined)
  const from = before ? (index > 0 ? before.at : before.at - 1) : 0
  const to = after ? (motion.keys[index] ? after.at : after.at + 1) : 1
  const parts = before && after ? splitEase(before.ease, (at - from) / (to - from)) : null
  const added: Key = { at, value, ease: parts?.after ?? before?.ease ?? 'linear' }
  const keys = motion.keys.map((key) => (key === before && parts ? { ...key, ease: parts.before } : key))
  return { ...motion, keys: [...keys.slice(0, index), added, ...keys.slice(index)] }
}

/** The motion tied to the loop by its cycles, or free with a period in frames; its value at the given frame stays. */
export const switchPeriod = (motion: Motion, tied: boolean, frame: number, length: number): Motion => {
  const frames = periodFrames(motion.period, length)
  const period = tied ? { cycles: Math.max(1, Math.round(length / frames)) } : { frames }
  return withPeriod(motion, period, frame, length)
}

/** The motion begun at the frame at which another one ends: where the last key of its cycle stands. */
export function startAtEndOf(motion: Motion, other: Motion, length: number): Motion {
  const last = other.keys.at(-1)?.at ?? 1
  const frame = (last - other.phase) * periodFrames(other.period, length)
  const phase = -frame / periodFrames(motion.period, length)
  return movedPhase(motion, phase)
}

/** A layer with every number of a property's motion, or its still value, changed. */
export function mapProperty(layer: Layer, name: string, change: (value: number) => number): Layer {
  const motion = layer.motions[name]
  const described = layerKind(layer.kind).properties[name]
  if (!described) return layer
  if (!motion) return { ...layer, values: { ...layer.values, [name]: boundNumber(change(Number(layer.values[name]))) } }
  const keys = motion.keys.map((key) => ({ ...key, value: boundNumber(change(Number(key.value))) }))
  return { ...layer, motions: { ...layer.motions, [name]: { ...motion, keys } } }
}

/** A motion of numbers bent by `by` at a place of its cycle; a motion of colours stays as it is. */
export const bendMotion = (motion: Motion, at: number, by: number, reach: number): Motion =>
  typeof motion.keys[0]?.value === 'number' ? bend(motion as Motion<number>, at, by, reach) : motion
