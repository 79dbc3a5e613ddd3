import { boundNumber } from '../bounds'
import { reverseEase } from './ease'
import { type Key, type Motion, type MovingValue, mixNumbers, motionValue, travel } from './motion'

/** Motions of one point, such as x and y: what is done to one is done to all, over the same keys. */
export type Together = readonly Motion<number>[]

const values = (motion: Motion<number>) => motion.keys.map(({ value }) => value)

/** Whether motions have their keys at the same places and run alike between them, so that they draw one path. */
export function keyedTogether(motions: Together): boolean {
  const [first, ...others] = motions
  return others.every(
    (other) =>
      first !== undefined &&
      other.after === first.after &&
      other.phase === first.phase &&
      JSON.stringify(other.period) === JSON.stringify(first.period) &&
      other.keys.length === first.keys.length &&
      other.keys.every(({ at, ease }, i) => at === first.keys[i]?.at && ease === first.keys[i]?.ease),
  )
}

/** The most keys that are made of a motion at once; a longer cycle has them farther apart. */
export const MAX_SAMPLES = 2400

/** Motions with one key on every frame of their cycle instead, linear in between: what cannot be keyed together otherwise. */
export function sampledMotions(motions: Together, length: number): Motion<number>[] {
  const count = Math.min(MAX_SAMPLES, Math.max(2, Math.round(length)))
  return motions.map((motion) => {
    const closing = motion.after !== 'repeat'
    const keys = Array.from({ length: count + (closing ? 1 : 0) }, (_, i): Key<number> => {
      const still = { ...motion, period: { frames: count }, phase: 0 }
      const at = i === count ? count - 1e-9 : i
      return { at: i / count, value: boundNumber(motionValue(still, at, count, mixNumbers)), ease: 'linear' }
    })
    return { ...motion, keys }
  })
}

/** How far a point that is moved by several motions goes from each key to the next; in `repeat` also back to the first. */
function ways(motions: Together): number[] {
  const [first] = motions
  if (!first) return []
  const count = first.keys.length - (first.after === 'repeat' ? 0 : 1)
  return Array.from({ length: count }, (_, i) =>
    Math.hypot(
      ...motions.map((motion) => {
        const all = values(motion)
        return (all[(i + 1) % all.length] as number) - (all[i] as number)
      }),
    ),
  )
}

/**
 * The motions at an even speed: straight from key to key, each key at the time at which an even pace gets there, round
 * the corners of a path too. What does not move at all stays as it is.
 */
export function evenSpeed(motions: Together): Motion<number>[] {
  const [first] = motions
  const way = ways(motions)
  const total = way.reduce((a, b) => a + b, 0)
  if (!first || total === 0) return [...motions]
  const { keys, after } = first
  // A key from which nothing has moved takes no time: the one before it is enough.
  const kept = keys.map((_, i) => i === 0 || (way[i - 1] as number) > 1e-9 * total)
  const ends = after === 'once' || after === 'alternate'
  const start = ends || after === 'repeat' ? (keys[0]?.at ?? 0) : 0
  const span = ends ? (keys.at(-1)?.at ?? 1) - start : 1
  let gone = 0
  const places = keys.map((_, i) => {
    const place = start + (gone / total) * span
    // One that is back where the first key is leaves the rest of the cycle nothing to do.
    if (after === 'repeat' && i > 0 && gone > (1 - 1e-9) * total) kept[i] = false
    gone += way[i] ?? 0
    return after === 'repeat' && place >= 1 ? place - 1 : Math.min(1, place)
  })
  return motions.map((motion) => {
    const moved = motion.keys.map((key, i) => ({ ...key, at: places[i] as number, ease: 'linear' }))
    return { ...motion, keys: moved.filter((_, i) => kept[i]).sort((a, b) => a.at - b.at) }
  })
}

/**
 * Motions of one point without the keys that a straight line between the others replaces within an error, in the
 * properties' unit (Ramer 1972, Douglas & Peucker 1973, with the error measured in the values). A key stays in all motions
 * or in none, and the outermost keys stay. In `repeat` the way back from the last key to the first is thinned, too.
 */
export function thinTogether(motions: Together, error: number): Motion<number>[] {
  if (motions[0]?.after !== 'repeat') return thinOpen(motions, error)
  const round = (motion: Motion<number>): Motion<number> => {
    const [key] = motion.keys
    return key ? { ...motion, keys: [...motion.keys, { ...key, at: key.at + 1 }] } : motion
  }
  return thinOpen(motions.map(round), error).map((motion) => ({ ...motion, keys: motion.keys.slice(0, -1) }))
}

function thinOpen(motions: Together, error: number): Motion<number>[] {
  const [first] = motions
  const count = first?.keys.length ?? 0
  const keep = new Uint8Array(count)
  const visit = (from: number, to: number) => {
    keep[from] = 1
    keep[to] = 1
    let worst = error
    let where = -1
    for (let i = from + 1; i < to; i++) {
      const off = Math.hypot(
        ...motions.map(({ keys }) => {
          const [a, b, key] = [keys[from], keys[to], keys[i]] as [Key<number>, Key<number>, Key<number>]
          return key.value - mixNumbers(a.value, b.value, (key.at - a.at) / (b.at - a.at))
        }),
      )
      if (off > worst) {
        worst = off
        where = i
      }
    }
    if (where < 0) return
    visit(from, where)
    visit(where, to)
  }
  if (count > 2) visit(0, count - 1)
  else keep.fill(1)
  return motions.map((motion) => ({
    ...motion,
    keys: motion.keys.filter((_, i) => keep[i]).map((key) => ({ ...key, ease: 'linear' })),
  }))
}

/**
 * Closed motions: the gap between the last key and the first is spread over the cycle, the most where the motion is
 * fastest and nothing where it rests. Each key is moved by the share of the gap that matches the share of the way that
 * lies behind it, so what rests still rests, and the first key stays.
 * @param allowed what a gap may be without being one, such as whole turns; by default it must be 0
 */
export function closeGap(motions: Together, allowed: (gap: number) => number = (gap) => gap): Motion<number>[] {
  const [leader] = motions
  if (leader?.after === 'repeat' && leader.keys.length > 1 && leader.keys[0]?.at === 0)
    return closeGap(motions.map(withClosingKey), allowed).map((motion) => ({
      ...motion,
      after: 'repeat',
      keys: motion.keys.slice(0, -1),
    }))
  const way = ways(motions.map((motion) => ({ ...motion, after: 'once' })))
  const total = way.reduce((a, b) => a + b, 0)
  let gone = 0
  const behind = [0, ...way.map((each) => (gone += each))]
  return motions.map((motion) => {
    const gap = allowed((motion.keys.at(-1)?.value ?? 0) - (motion.keys[0]?.value ?? 0))
    if (gap === 0 || total === 0) return motion
    return {
      ...motion,
      keys: motion.keys.map((key, i) => ({
        ...key,
        value: boundNumber(key.value - (gap * (behind[i] as number)) / total),
      })),
    }
  })
}

/** A repeating motion with a key at its end, where it would get to if it went on as it came. */
function withClosingKey(motion: Motion<number>): Motion<number> {
  const [before, last] = motion.keys.slice(-2) as [Key<number>, Key<number>]
  const pace = (last.value - before.value) / (last.at - before.at)
  const closing = { at: 1, value: boundNumber(last.value + pace * (1 - last.at)), ease: 'linear' }
  return { ...motion, after: 'once', keys: [...motion.keys, closing] }
}

/** 1 at the handle, 0 from the reach on, with no kink at either end: a raised cosine. */
const fade = (distance: number, reach: number) =>
  distance >= reach ? 0 : (1 + Math.cos((Math.PI * distance) / reach)) / 2

/**
 * The motion bent at a place of its cycle: keys near it move by up to `by`, those farther off less and less; no key is
 * lost. Distances count round the cycle if it repeats.
 */
export function bend(motion: Motion<number>, at: number, by: number, reach: number): Motion<number> {
  const round = motion.after === 'repeat'
  return {
    ...motion,
    keys: motion.keys.map((key) => {
      const straight = Math.abs(key.at - at)
      const distance = round ? Math.min(straight, 1 - straight) : straight
      return { ...key, value: boundNumber(key.value + by * fade(distance, reach)) }
    }),
  }
}

/** The same motion with every key's value changed; what it carries on by follows. */
const mapValues = (motion: Motion<number>, change: (value: number) => number): Motion<number> => ({
  ...motion,
  keys: motion.keys.map((key) => ({ ...key, value: boundNumber(change(key.value)) })),
})

/** The motion with another phase, any number: whole cycles of it are kept in what is carried, or in which way it goes. */
export function movedPhase(motion: Motion, phase: number): Motion {
  const lost = Math.floor(phase + 1e-12)
  const moved = { ...motion, phase: Math.min(1, Math.max(0, phase - lost)) }
  if (motion.after === 'alternate' && lost % 2 !== 0) return mirrored(moved)
  if (motion.after !== 'accumulate' || lost === 0) return moved
  const carried = lost * travel(motion as Motion<number>)
  return mapValues(moved as Motion<number>, (value) => value + carried)
}

/** The motion with another period and the phase that keeps its value at the given frame. */
export function withPeriod(motion: Motion, period: Motion['period'], frame: number, length: number): Motion {
  const cyclesAt = (each: Motion['period']) => ('cycles' in each ? (frame * each.cycles) / length : frame / each.frames)
  return movedPhase({ ...motion, period }, cyclesAt(motion.period) + motion.phase - cyclesAt(period))
}

/** `alternate` a cycle later: the way there is the way back. */
const mirrored = (motion: Motion): Motion => ({ ...motion, keys: reversedKeys(motion.keys, motion.after) })

/** Keys in the order in which they come when time runs backwards, each ease turned with them. */
export function reversedKeys<V extends MovingValue>(
  keys: readonly Key<V>[],
  after: Motion['after'],
): readonly Key<V>[] {
  const count = keys.length
  const turned = keys.map((key, i) => {
    const before = keys[(i - 1 + count) % count] as Key<V>
    const at = after === 'repeat' && 1 - key.at === 1 ? 0 : 1 - key.at
    return { ...key, at, ease: reverseEase(before.ease) }
  })
  return turned.sort((a, b) => a.at - b.at)
}

/** The motion run backwards: at frame n it is where it was at −n, for every n. */
export function reversed(motion: Motion): Motion {
  const { phase, after } = motion
  const turned = mirrored(motion)
  switch (after) {
    case 'repeat':
      return { ...turned, phase: phase === 0 ? 0 : 1 - phase }
    case 'once':
      return { ...turned, phase: 1 - phase }
    case 'alternate':
      return phase === 0 ? motion : { ...turned, phase: 1 - phase }
    case 'accumulate': {
      const back = travel(motion as Motion<number>)
      return phase === 0
        ? mapValues(turned as Motion<number>, (value) => value - back)
        : { ...turned, phase: 1 - phase }
    }
  }
}
