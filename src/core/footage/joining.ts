import { modulo } from '../modulo'
import { smoothstep } from '../smoothstep'
import { median } from '../statistics'
import type { PatchMap } from './patches'
import type { ClipPlan, Mixed, MixPart, PlanFrame } from './plan'

/**
 * A region of the picture that closes by itself: its first frame and period, in frames. A period of one stands still.
 */
export interface OwnLoop {
  readonly start: number
  readonly period: number
  /**
   * Frames over which its end fades into those before its start; if negative, its start fades out of those after its
   * end.
   */
  readonly overlap: number
}

/** Each region of the picture has its own start and period; all of them come home after `length` frames. */
export interface Regions {
  readonly kind: 'parts'
  readonly length: number
  readonly map: PatchMap
  /** By the numbers of the map. */
  readonly loops: readonly OwnLoop[]
}

type Mixing = { readonly keepVariance: boolean; readonly morph?: boolean | undefined }

/** A mix of two frames, the second of a weight; null where they are put together of other regions. */
function mixOf(first: PlanFrame, second: PlanFrame, weight: number, how: Mixing): PlanFrame | null {
  if (!('map' in first) && !('map' in second)) return mixed(first, second, weight, how)
  if (!('map' in first) || !('map' in second) || first.map !== second.map) return null
  const { map, pieces } = first
  return { map, pieces: pieces.map((piece, k) => mixed(piece, second.pieces[k], weight, how)) }
}

function mixed(first: Mixed, second: Mixed, weight: number, { keepVariance, morph }: Mixing): Mixed {
  if (weight <= 0) return first
  if (weight >= 1) return second
  const scaled = (parts: readonly MixPart[], by: number) => parts.map((part) => ({ ...part, weight: part.weight * by }))
  const parts = [...scaled(first.parts, 1 - weight), ...scaled(second.parts, weight)]
  // A mixed frame has no single flow.
  const moves = morph && parts.length === 2
  return {
    parts: moves ? parts : merged(parts),
    keepVariance,
    ...(moves && { morph }),
    ...(first.grain !== undefined && { grain: first.grain }),
  }
}

/** Parts of one frame of the source, in one light, are one part. */
function merged(parts: readonly MixPart[]): MixPart[] {
  const out: MixPart[] = []
  for (const part of parts) {
    const same = out.findIndex(
      ({ frame, gain }) => frame === part.frame && gain.every((each, c) => each === part.gain[c]),
    )
    if (same < 0) out.push(part)
    else out[same] = { ...part, weight: part.weight + out[same].weight }
  }
  return out
}

/**
 * A plan whose ends overlap by K frames. If K frames were cropped off before it, its last frames fade into those and
 * its length stays; if K frames were cropped off after it, its first frames fade out of those; else K of its own first
 * frames are used up.
 */
export function overlapped(plan: ClipPlan, { frames, ...how }: Mixing & { readonly frames: number }): ClipPlan {
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
    return overlapped(cut, { frames: K, ...how })
  }
  const out: PlanFrame[] = []
  for (const [n, own] of plan.frames.entries()) {
    // f(n − N) lies before the first frame: it leads there. f(n + N) lies after the last one: it goes on from there.
    const k = lead.length === K ? n - (N - K) : n
    const w = smoothstep((k + 1) / (K + 1))
    let made: PlanFrame | null = own
    if (lead.length === K && k >= 0) made = mixOf(own, lead[k], w, how)
    else if (lead.length < K && k < K) made = mixOf(trail[k], own, w, how)
    if (!made) return plan
    out.push(made)
  }
  return { ...plan, frames: out, before: [], after: [] }
}

/**
 * Each region shows its own loop; all of them as far on as the first at each frame, so that what was filmed at one moment is shown at one where that can be. All delays
 * become the median.
 */
export function inRegions(plan: ClipPlan, { length, map, loops }: Regions): ClipPlan {
  const count = plan.frames.length
  const fits = ({ start, period, overlap }: OwnLoop) =>
    start - Math.max(0, overlap) >= 0 && start + period - Math.min(0, overlap) <= count && Math.abs(overlap) <= period
  const [first] = loops
  if (!first || length < 2 || !loops.every(fits) || plan.frames.some((frame) => 'map' in frame)) return plan
  const at = (n: number) => plan.frames[n] as Mixed
  const shown = (n: number, { start, period, overlap }: OwnLoop): Mixed => {
    const ahead = first.start + n - start
    const i = modulo(ahead, period)
    const own = at(start + i)
    const K = Math.abs(overlap)
    const k = overlap > 0 ? i - (period - K) : i
    if (K === 0 || k < 0 || k >= K) return own
    const w = smoothstep((k + 1) / (K + 1))
    const other = at(start + i + (overlap > 0 ? -period : period))
    return mixed(own, other, overlap > 0 ? w : 1 - w, { keepVariance: true })
  }
  const delay = median(plan.delaysMs)
  return {
    ...plan,
    frames: Array.from({ length }, (_, n) => ({ map, pieces: loops.map((loop) => shown(n, loop)) })),
    delaysMs: Array.from({ length }, () => delay),
    before: [],
    after: [],
  }
}

/** How frames between those of a clip come to be. */
export const BETWEEN = ['flow', 'blend', 'hold'] as const
export type Between = (typeof BETWEEN)[number]

/**
 * A plan at another pace: as many frames as that takes, whole and at least two, with the delays of before on the whole. What lies between two frames, also between the last and the first, is
 * moved along the flow between them, mixed, or the nearer one of both; what goes faster shows what is passed over as the blur of a shutter open all the while.
 * @param speed against the one it has
 */
export function pacedPlan(plan: ClipPlan, speed: number, between: Between): ClipPlan {
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
