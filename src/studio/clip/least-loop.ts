import type { ClipPlan } from '@/core/footage'
import { median } from '@/core/statistics'

/** A loop of less than this is not looked for at first, s. */
const MIN_LOOP_SECONDS = 0.4

/** The usual delay of a plan, ms. */
export const delayOf = ({ delaysMs }: ClipPlan): number => Math.max(1, median(delaysMs))

/** The shortest loop that is looked for at first, frames. */
export const leastLoopOf = (plan: ClipPlan): number =>
  Math.max(2, Math.min(Math.round((1000 * MIN_LOOP_SECONDS) / delayOf(plan)), plan.frames.length >> 2))
