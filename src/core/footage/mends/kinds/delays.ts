import { z } from 'zod'
import { MIN_KEPT_DELAY_MS } from '../../../seam'
import { median } from '../../../statistics'
import type { MendKind } from '../mend-kind'

/** The shortest delay that all viewers honour, ms. */
const HONOURED_MS = 2 * MIN_KEPT_DELAY_MS

/** A pause at least this many times as long as the median is meant: it stays as it is. */
const MEANT_PAUSE = 3

interface EvenDelays {
  readonly kind: 'even-delays'
}

/** Every frame is shown for the median delay; pauses that are meant stay. */
export const evenDelaysMend: MendKind<EvenDelays> = {
  schema: z.object({ kind: z.literal('even-delays') }),
  answers: ({ kind }) =>
    kind === 'uneven-delays' ? [{ label: 'Even out the delays', mend: { kind: 'even-delays' } }] : [],
  words: () => 'delays evened out',
  apply: (plan) => {
    const usual = median(plan.delaysMs)
    const isPause = (delay: number) => delay >= MEANT_PAUSE * usual && usual > 0
    return { ...plan, delaysMs: plan.delaysMs.map((delay) => (isPause(delay) ? delay : usual)) }
  },
}

interface Slower {
  readonly kind: 'slower'
  readonly delayMs: number
}

/** No frame is shown for less than a delay. */
export const slowerMend: MendKind<Slower> = {
  schema: z.object({ kind: z.literal('slower'), delayMs: z.number().min(0) }),
  answers: ({ kind }) =>
    kind === 'delay-too-short'
      ? [{ label: `At least ${HONOURED_MS} ms for each frame`, mend: { kind: 'slower', delayMs: HONOURED_MS } }]
      : [],
  words: ({ delayMs }) => `at least ${delayMs} ms each`,
  apply: (plan, { delayMs }) => ({ ...plan, delaysMs: plan.delaysMs.map((delay) => Math.max(delay, delayMs)) }),
}

interface Last {
  readonly kind: 'last'
  readonly seconds: number
}

/** The delays are scaled to a length of the clip, in seconds; they are alike where they were all 0. */
export const lastMend: MendKind<Last> = {
  schema: z.object({ kind: z.literal('last'), seconds: z.number().positive() }),
  words: ({ seconds }) => `made to last ${Number(seconds.toFixed(3))} s`,
  apply: (plan, { seconds }) => {
    const { delaysMs } = plan
    const totalMs = 1000 * seconds
    const nowMs = delaysMs.reduce((sum, delay) => sum + delay, 0)
    return {
      ...plan,
      delaysMs: delaysMs.map((delay) => (nowMs > 0 ? (delay * totalMs) / nowMs : totalMs / delaysMs.length)),
    }
  },
}

interface ForEver {
  readonly kind: 'for-ever'
}

/** The clip repeats without end. */
export const forEverMend: MendKind<ForEver> = {
  schema: z.object({ kind: z.literal('for-ever') }),
  answers: ({ kind }) => (kind === 'plays-once' ? [{ label: 'Repeat for ever', mend: { kind: 'for-ever' } }] : []),
  words: () => 'set to repeat for ever',
  apply: (plan) => ({ ...plan, playsForever: true }),
}
