import { z } from 'zod'
import { smoothstep } from '../../../smoothstep'
import type { MendKind, Offered } from '../mend-kind'
import { type MixOptions, mixOf } from '../mixing'
import type { ClipPlan, PlanFrame } from '../plan'

interface Overlap extends MixOptions {
  readonly kind: 'overlap'
  /** How many frames, at most half of the clip. */
  readonly frames: number
}

/**
 * The last K frames fade into the frames before the first: out(n) = mix(f(n), f(n − N), w(n)) for the K frames at the end. f(n − N) comes from the frames cropped off before
 * them, or f(n + N) from those cropped off after them; else from the first K frames, which are then cut off, and the loop becomes K frames shorter.
 */
export const overlapMend: MendKind<Overlap> = {
  schema: z.object({
    kind: z.literal('overlap'),
    frames: z.number().min(1),
    keepVariance: z.boolean(),
    morph: z.boolean().optional(),
  }),
  answers: ({ kind }, count) => (kind === 'jumps' && count >= 4 ? overlapsOf(count) : []),
  words: ({ frames, morph, keepVariance }) => {
    const how = keepVariance ? ', contrast kept' : ''
    return `ends overlapped by ${frames}${morph ? ', morphed along their motion' : how}`
  },
  apply: (plan, mend) => overlapped(plan, mend),
}

/** Over a quarter of the clip, at most 24 frames. */
function overlapsOf(count: number): Offered<Overlap>[] {
  const frames = Math.max(2, Math.min(Math.round(count / 4), 24))
  return [
    { label: `Overlap the ends by ${frames} frames`, mend: { kind: 'overlap', frames, keepVariance: false } },
    { label: `Overlap by ${frames}, contrast kept`, mend: { kind: 'overlap', frames, keepVariance: true } },
    { label: `Morph over ${frames} frames`, mend: { kind: 'overlap', frames, keepVariance: false, morph: true } },
  ]
}

/**
 * A plan whose ends overlap by K frames. If K frames were cropped off before it, its last frames fade into those and
 * its length stays; if K frames were cropped off after it, its first frames fade out of those; else K of its own first
 * frames are used up.
 */
function overlapped(plan: ClipPlan, { frames, keepVariance, morph }: Omit<Overlap, 'kind'>): ClipPlan {
  const N = plan.frames.length
  const K = Math.floor(Math.min(frames, N / 2))
  if (K < 1) return plan
  const { before, after } = plan
  const lead = before.slice(-K)
  const trail = after.slice(0, K)
  if (lead.length < K && trail.length < K) {
    if (N - K < 2) return plan
    const cut = {
      ...plan,
      frames: plan.frames.slice(K),
      delaysMs: plan.delaysMs.slice(K),
      before: plan.frames.slice(0, K),
    }
    return overlapped(cut, { frames: K, keepVariance, morph })
  }
  const out: PlanFrame[] = []
  for (const [n, own] of plan.frames.entries()) {
    // f(n − N) lies before the first frame: it leads there. f(n + N) lies after the last one: it goes on from there.
    const k = lead.length === K ? n - (N - K) : n
    const w = smoothstep((k + 1) / (K + 1))
    let made: PlanFrame | null = own
    if (lead.length === K && k >= 0) made = mixOf(own, lead[k], w, { keepVariance, morph })
    else if (lead.length < K && k < K) made = mixOf(trail[k], own, w, { keepVariance, morph })
    if (!made) return plan
    out.push(made)
  }
  return { ...plan, frames: out, before: [], after: [] }
}
