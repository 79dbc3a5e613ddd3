import { z } from 'zod'
import type { MendKind } from '../mend-kind'
import type { ClipPlan } from '../plan'
import { frameNumber } from './values'

/** A plan of some frames of another, by their numbers and in their order. */
const ofFrames = (plan: ClipPlan, numbers: readonly number[]): ClipPlan => ({
  ...plan,
  frames: numbers.map((n) => plan.frames[n]),
  delaysMs: numbers.map((n) => plan.delaysMs[n]),
  before: [],
  after: [],
})

interface Drop {
  readonly kind: 'drop'
  readonly frames: readonly number[]
}

/** Frames are left out. */
export const dropMend: MendKind<Drop> = {
  schema: z.object({ kind: z.literal('drop'), frames: z.array(frameNumber).max(100_000) }),
  answers: ({ kind, frame }) =>
    frame !== null && (kind === 'blank-frame' || kind === 'stray-frame' || kind === 'repeats-a-frame')
      ? [{ label: `Drop frame ${frame}`, mend: { kind: 'drop', frames: [frame] } }]
      : [],
  words: ({ frames }) => `frame${frames.length > 1 ? 's' : ''} ${frames.join(', ')} dropped`,
  apply: (plan, { frames }) => {
    const kept = [...plan.frames.keys()].filter((n) => !frames.includes(n))
    return kept.length < 2 ? plan : ofFrames(plan, kept)
  },
}

interface Crop {
  readonly kind: 'crop'
  /** The first and the last frame that stay. */
  readonly from: number
  readonly to: number
}

/** Frames at both ends are left out; ends may overlap into them later. */
export const cropMend: MendKind<Crop> = {
  schema: z.object({ kind: z.literal('crop'), from: frameNumber, to: frameNumber }),
  answers: ({ kind, frame, length }, count) => {
    if (kind === 'shorter-loop' && length)
      return [{ label: `Cut it to its first ${length} frames`, mend: { kind: 'crop', from: 0, to: length - 1 } }]
    if (kind !== 'jumps-inside' || frame === null || count < 4) return []
    // The longer side of the cut.
    const [from, to] = frame + 1 >= count / 2 ? [0, frame] : [frame + 1, count - 1]
    return [{ label: `Crop to frames ${from} to ${to}`, mend: { kind: 'crop', from, to } }]
  },
  words: ({ from, to }) => `cropped to frames ${from} to ${to}`,
  apply: (plan, mend) => {
    const from = Math.max(0, mend.from)
    const to = Math.min(plan.frames.length, mend.to + 1)
    if (to - from < 2) return plan
    const numbers = Array.from({ length: to - from }, (_, i) => from + i)
    return {
      ...ofFrames(plan, numbers),
      before: [...plan.before, ...plan.frames.slice(0, from)],
      after: [...plan.frames.slice(to), ...plan.after],
    }
  },
}

interface ThereAndBack {
  readonly kind: 'there-and-back'
}

/** Forwards, then backwards: 2N − 2 frames, the turning frames shown once. */
export const thereAndBackMend: MendKind<ThereAndBack> = {
  schema: z.object({ kind: z.literal('there-and-back') }),
  answers: ({ kind }, count) =>
    kind === 'jumps' && count >= 4
      ? [{ label: `There and back, ${2 * count - 2} frames`, mend: { kind: 'there-and-back' } }]
      : [],
  words: () => 'there and back',
  apply: (plan) => {
    const there = [...plan.frames.keys()]
    return there.length < 3 ? plan : ofFrames(plan, [...there, ...there.slice(1, -1).reverse()])
  },
}

interface Reverse {
  readonly kind: 'reverse'
}

/** The last frame first. */
export const reverseMend: MendKind<Reverse> = {
  schema: z.object({ kind: z.literal('reverse') }),
  words: () => 'reversed',
  apply: (plan) => ({
    ...plan,
    frames: plan.frames.toReversed(),
    delaysMs: plan.delaysMs.toReversed(),
    before: plan.after.toReversed(),
    after: plan.before.toReversed(),
  }),
}
