import { lineThrough, median } from '../statistics'
import type { EdgeMend } from './edge'

/** An action that repairs the seam of a clip. Frames are counted as they are when it is applied. */
export type Mend =
  | { readonly kind: 'drop'; readonly frames: readonly number[] }
  | { readonly kind: 'crop'; readonly from: number; readonly to: number }
  | { readonly kind: 'there-and-back' }
  | { readonly kind: 'overlap'; readonly frames: number; readonly keepVariance: boolean; readonly morph?: boolean }
  | { readonly kind: 'even-exposure' }
  | { readonly kind: 'even-delays' }
  | { readonly kind: 'slower'; readonly delayMs: number }
  | { readonly kind: 'last'; readonly seconds: number }
  | { readonly kind: 'for-ever' }
  | EdgeMend

/** A source frame that a mended one is made of. */
export interface Part {
  readonly frame: number
  /** Weights of all parts add up to 1. */
  readonly weight: number
  /** Factors of linear red, green and blue. */
  readonly gain: readonly [number, number, number]
}

/** How a mended clip is made from its source; nothing is lost, every mend can be taken back. */
export interface Plan {
  readonly frames: readonly {
    readonly parts: readonly Part[]
    /** Divide the deviation from the mean by √(w² + (1 − w)²), so that a mix of unrelated texture keeps its contrast. */
    readonly keepVariance: boolean
    /** Both parts are moved along the flow between them to where they meet, before they are mixed. */
    readonly morph?: boolean
  }[]
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
  /** What is done to the pictures of the source before they are mixed, one after the other. */
  readonly edges: readonly EdgeMend[]
}

export type Gain = readonly [number, number, number]
const AS_IT_IS: Gain = [1, 1, 1]

/** A clip as it came. */
export interface ClipShape {
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
  /** Mean linear red, green and blue of each frame: what an even exposure is made from. */
  readonly means: readonly Gain[]
}

export const planOf = ({ delaysMs, playsForever }: ClipShape): Plan => ({
  frames: delaysMs.map((_, frame) => ({ parts: [{ frame, weight: 1, gain: AS_IT_IS }], keepVariance: false })),
  delaysMs,
  playsForever,
  edges: [],
})

/** A weight from 0 to 1 with zero slope at both ends. */
export const smooth = (t: number): number => t * t * (3 - 2 * t)

/**
 * The plan with one more mend. A mend that would leave fewer than two frames, or that does not fit, changes nothing.
 * - overlap: the last K frames fade into the frames before the first: out(n) = mix(f(n), f(n − N), w(n)) for the K frames at
 *   the end, with f(n − N) taken from the K frames that are cut off the start; the loop becomes K frames shorter.
 * - there and back: 2N − 2 frames, the turning frames shown once.
 * - last: the delays are rescaled so that the clip lasts so long.
 * - same edge, matte: of all pictures of the source alike, see edge.ts.
 * - even exposure: each frame is brought back along the straight line that its mean follows, to the mean of all.
 */
export function applyMend(plan: Plan, mend: Mend, clip: ClipShape): Plan {
  const N = plan.frames.length
  const at = (kept: readonly number[]): Plan => ({
    ...plan,
    frames: kept.map((n) => plan.frames[n] as Plan['frames'][number]),
    delaysMs: kept.map((n) => plan.delaysMs[n] as number),
  })
  const all = Array.from({ length: N }, (_, n) => n)
  switch (mend.kind) {
    case 'drop': {
      const kept = all.filter((n) => !mend.frames.includes(n))
      return kept.length < 2 ? plan : at(kept)
    }
    case 'crop': {
      const kept = all.slice(Math.max(0, mend.from), mend.to + 1)
      return kept.length < 2 ? plan : at(kept)
    }
    case 'there-and-back':
      return N < 3 ? plan : at([...all, ...all.slice(1, -1).reverse()])
    case 'overlap':
      return overlapped(plan, mend)
    case 'even-exposure':
      return evenExposure(plan, clip)
    case 'even-delays':
      return { ...plan, delaysMs: evenDelays(plan.delaysMs) }
    case 'slower':
      return { ...plan, delaysMs: plan.delaysMs.map((delay) => Math.max(delay, mend.delayMs)) }
    case 'last':
      return { ...plan, delaysMs: lasting(plan.delaysMs, 1000 * mend.seconds) }
    case 'for-ever':
      return { ...plan, playsForever: true }
    case 'same-edge':
    case 'matte':
      return { ...plan, edges: [...plan.edges, mend] }
  }
}

/** All mends of a clip, one after the other. */
export const mendedPlan = (clip: ClipShape, mends: readonly Mend[]): Plan =>
  mends.reduce((plan, mend) => applyMend(plan, mend, clip), planOf(clip))

function overlapped(plan: Plan, { frames, keepVariance, morph }: Extract<Mend, { kind: 'overlap' }>): Plan {
  const N = plan.frames.length
  const K = Math.min(Math.floor(frames), Math.floor(N / 2))
  if (K < 1 || N - K < 2) return plan
  const scaled = (parts: readonly Part[], by: number) => parts.map((part) => ({ ...part, weight: part.weight * by }))
  const out = Array.from({ length: N - K }, (_, i) => {
    const n = i + K
    const own = plan.frames[n] as Plan['frames'][number]
    const k = n - (N - K)
    if (k < 0) return own
    // f(n − N) lies before the first frame that is kept: it leads there.
    const before = plan.frames[k] as Plan['frames'][number]
    const w = smooth((k + 1) / (K + 1))
    const parts = [...scaled(own.parts, 1 - w), ...scaled(before.parts, w)]
    // What is mixed already has no single flow.
    return { parts, keepVariance, ...(morph && parts.length === 2 && { morph }) }
  })
  return { ...plan, frames: out, delaysMs: plan.delaysMs.slice(K) }
}

function evenExposure(plan: Plan, { means }: ClipShape): Plan {
  const N = plan.frames.length
  if (N < 3) return plan
  const meanOf = (n: number, channel: number) =>
    (plan.frames[n] as Plan['frames'][number]).parts.reduce(
      (sum, { frame, weight, gain }) =>
        sum + weight * (gain[channel] as number) * ((means[frame] as Gain)[channel] as number),
      0,
    )
  const lines = [0, 1, 2].map((channel) => {
    const { mean, slope } = lineThrough(Array.from({ length: N }, (_, n) => meanOf(n, channel)))
    return (n: number) => {
      const line = mean + slope * (n - (N - 1) / 2)
      return line > 1e-6 && mean > 1e-6 ? mean / line : 1
    }
  })
  return {
    ...plan,
    frames: plan.frames.map((frame, n) => ({
      ...frame,
      parts: frame.parts.map((part) => ({
        ...part,
        gain: part.gain.map((each, channel) => each * (lines[channel] as (n: number) => number)(n)) as unknown as Gain,
      })),
    })),
  }
}

/** Delays with the same ratios that add up to a total; alike where they were all nothing. */
function lasting(delaysMs: readonly number[], totalMs: number): number[] {
  const now = delaysMs.reduce((sum, delay) => sum + delay, 0)
  return delaysMs.map((delay) => (now > 0 ? (delay * totalMs) / now : totalMs / delaysMs.length))
}

/** Every frame as long as the median, a single pause of three times that and more left as it is. */
function evenDelays(delaysMs: readonly number[]): number[] {
  const usual = median(delaysMs)
  return delaysMs.map((delay) => (delay >= 3 * usual && usual > 0 ? delay : usual))
}
