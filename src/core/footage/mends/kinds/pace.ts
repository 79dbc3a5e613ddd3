import { z } from 'zod'
import { modulo } from '../../../modulo'
import { median } from '../../../statistics'
import type { MendKind } from '../mend-kind'
import { mixOf } from '../mixing'
import type { ClipPlan, PlanFrame } from '../plan'

/** How frames between those of a clip come to be. */
export const BETWEEN = ['flow', 'blend', 'hold'] as const
export type Between = (typeof BETWEEN)[number]

/** How frames between others come to be, in words. */
export const BETWEEN_WORDS: Readonly<Record<Between, string>> = {
  flow: 'along the motion',
  blend: 'blended',
  hold: 'held',
}

interface Pace {
  readonly kind: 'pace'
  /** Against the one it has. */
  readonly speed: number
  readonly between: Between
}

/** More or fewer frames, so that everything is slower or faster. */
export const paceMend: MendKind<Pace> = {
  schema: z.object({ kind: z.literal('pace'), speed: z.number().min(0.01).max(100), between: z.enum(BETWEEN) }),
  words: ({ speed, between }) =>
    `${Number(speed.toFixed(3))} times as fast${speed < 1 ? `, ${BETWEEN_WORDS[between]}` : ''}`,
  apply: (plan, { speed, between }) => pacedPlan(plan, speed, between),
}

/**
 * A plan at another pace: as many frames as that takes, whole and at least two, with the delays of before on the whole. What lies between two frames, also between the last and the first, is
 * moved along the flow between them, mixed, or the nearer one of both; what goes faster shows what is passed over as the blur of a shutter open all the while.
 * @param speed against the one it has
 */
function pacedPlan(plan: ClipPlan, speed: number, between: Between): ClipPlan {
  const N = plan.frames.length
  const count = Math.max(2, Math.round(N / speed))
  if (!(speed > 0) || count === N) return plan
  const at = (n: number) => plan.frames[modulo(n, N)]
  const step = N / count
  const shown = (n: number): PlanFrame => {
    const place = n * step
    if (between === 'hold') return at(Math.round(place))
    if (step < 1) {
      const from = Math.floor(place + 1e-9)
      const how = { keepVariance: false, morph: between === 'flow' }
      return mixOf(at(from), at(from + 1), Math.max(0, place - from), how) ?? at(Math.round(place))
    }
    // All that is passed over until the next frame, each as long as it is.
    let made = null as PlanFrame | null
    let sum = 0
    for (let n0 = Math.floor(place); n0 < place + step - 1e-9; n0++) {
      const share = Math.min(n0 + 1, place + step) - Math.max(n0, place)
      if (share <= 1e-9) continue
      sum += share
      made = made ? mixOf(made, at(n0), share / sum, { keepVariance: false }) : at(n0)
      if (!made) return at(Math.round(place))
    }
    return made ?? at(Math.round(place))
  }
  const delay = median(plan.delaysMs)
  return {
    ...plan,
    frames: Array.from({ length: count }, (_, n) => shown(n)),
    delaysMs: Array.from({ length: count }, () => delay),
    before: [],
    after: [],
  }
}
