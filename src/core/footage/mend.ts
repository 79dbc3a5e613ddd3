import { lineThrough, median } from '../statistics'
import type { PatchMap } from './patches'
import type { SourceEdit, SourceMend } from './source'

/** An action that repairs the seam of a clip. Frames are counted as they are when it is applied. */
export type Mend =
  | { readonly kind: 'drop'; readonly frames: readonly number[] }
  | { readonly kind: 'crop'; readonly from: number; readonly to: number }
  | { readonly kind: 'there-and-back' }
  | { readonly kind: 'overlap'; readonly frames: number; readonly keepVariance: boolean; readonly morph?: boolean }
  | Regions
  | { readonly kind: 'even-exposure' }
  | { readonly kind: 'even-delays' }
  | { readonly kind: 'slower'; readonly delayMs: number }
  | { readonly kind: 'last'; readonly seconds: number }
  | { readonly kind: 'for-ever' }
  | SourceMend

/** A region of the picture that closes on its own: so many frames from one on; one alone stands still. */
export interface OwnLoop {
  readonly start: number
  readonly period: number
  /** Over so many frames its end fades into those before its start; where negative, its start fades out of those after its end. */
  readonly overlap: number
}

/** Each region of the picture gets its own start and period; all of them come home after so many frames. */
export interface Regions {
  readonly kind: 'parts'
  readonly length: number
  readonly map: PatchMap
  /** By the numbers of the map. */
  readonly loops: readonly OwnLoop[]
}

/** A source frame that a mended one is made of. */
export interface Part {
  readonly frame: number
  /** Weights of all parts add up to 1. */
  readonly weight: number
  /** Factors of linear red, green and blue. */
  readonly gain: readonly [number, number, number]
}

/** A picture that is mixed of frames of the source. */
export interface Mixed {
  readonly parts: readonly Part[]
  /** Divide the deviation from the mean by √(w² + (1 − w)²), so that a mix of unrelated texture keeps its contrast. */
  readonly keepVariance: boolean
  /** Both parts are moved along the flow between them to where they meet, before they are mixed. */
  readonly morph?: boolean
}

/** A frame of a mended clip: one picture, or several, each shown where a map says. */
export type PlanFrame = Mixed | Patched
export interface Patched {
  readonly map: PatchMap
  /** By the numbers of the map. */
  readonly pieces: readonly Mixed[]
}

/** All pictures that a frame is put together of. */
export const piecesOf = (frame: PlanFrame): readonly Mixed[] => ('map' in frame ? frame.pieces : [frame])

/** The frames of the source that a frame is made of. */
export const sourcesOf = (frame: PlanFrame): number[] => [
  ...new Set(piecesOf(frame).flatMap(({ parts }) => parts.map(({ frame: of }) => of))),
]

/** The frame of the source that a frame is, as it came; null where it is more, or other, than one. */
export function sourceAsItIs(frame: PlanFrame): number | null {
  if ('map' in frame) return null
  const [part, other] = frame.parts
  return part && !other && part.gain.every((gain) => gain === 1) ? part.frame : null
}

/** How a mended clip is made from its source; nothing is lost, every mend can be taken back. */
export interface Plan {
  readonly frames: readonly PlanFrame[]
  readonly delaysMs: readonly number[]
  readonly playsForever: boolean
  /** What is done to the pictures of the source before they are mixed, one after the other. */
  readonly edits: readonly SourceEdit[]
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
  edits: [],
})

/** A weight from 0 to 1 with zero slope at both ends. */
export const smooth = (t: number): number => t * t * (3 - 2 * t)

/**
 * The plan with one more mend. A mend that would leave fewer than two frames, or that does not fit, changes nothing.
 * - overlap: the last K frames fade into the frames before the first: out(n) = mix(f(n), f(n − N), w(n)) for the K frames at
 *   the end, with f(n − N) taken from the K frames that are cut off the start; the loop becomes K frames shorter.
 * - parts: each region of the picture shows a loop of its own.
 * - there and back: 2N − 2 frames, the turning frames shown once.
 * - last: the delays are rescaled so that the clip lasts so long.
 * - same edge, matte, steady, even light: of the pictures of the source that are in it, see source.ts.
 * - even exposure: each frame is brought back along the straight line that its mean follows, to the mean of all.
 */
export function applyMend(plan: Plan, mend: Mend, clip: ClipShape): Plan {
  const N = plan.frames.length
  const at = (kept: readonly number[]): Plan => ({
    ...plan,
    frames: kept.map((n) => plan.frames[n] as PlanFrame),
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
    case 'parts':
      return inRegions(plan, mend)
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
    case 'steady':
    case 'even-light':
      return { ...plan, edits: [...plan.edits, { mend, ...rangeOf(plan) }] }
  }
}

/** All mends of a clip, one after the other. */
export const mendedPlan = (clip: ClipShape, mends: readonly Mend[]): Plan =>
  mends.reduce((plan, mend) => applyMend(plan, mend, clip), planOf(clip))

/** From the first to the last frame of the source that is in it. */
function rangeOf({ frames }: Plan): { readonly from: number; readonly to: number } {
  let [from, to] = [Infinity, 0]
  for (const frame of frames)
    for (const of of sourcesOf(frame)) {
      from = Math.min(from, of)
      to = Math.max(to, of)
    }
  return { from, to }
}

/** A mix of two pictures, the second of a weight; null where one of them is put together of regions. */
function mixOf(
  first: PlanFrame,
  second: PlanFrame,
  weight: number,
  how: { readonly keepVariance: boolean; readonly morph?: boolean | undefined },
): Mixed | null {
  if ('map' in first || 'map' in second) return null
  const scaled = (parts: readonly Part[], by: number) => parts.map((part) => ({ ...part, weight: part.weight * by }))
  const parts = [...scaled(first.parts, 1 - weight), ...scaled(second.parts, weight)]
  // What is mixed already has no single flow.
  return { parts, keepVariance: how.keepVariance, ...(how.morph && parts.length === 2 && { morph: true }) }
}

function overlapped(plan: Plan, { frames, keepVariance, morph }: Extract<Mend, { kind: 'overlap' }>): Plan {
  const N = plan.frames.length
  const K = Math.min(Math.floor(frames), Math.floor(N / 2))
  if (K < 1 || N - K < 2) return plan
  const out: PlanFrame[] = []
  for (let n = K; n < N; n++) {
    const own = plan.frames[n] as PlanFrame
    const k = n - (N - K)
    // f(n − N) lies before the first frame that is kept: it leads there.
    const mixed =
      k < 0 ? own : mixOf(own, plan.frames[k] as PlanFrame, smooth((k + 1) / (K + 1)), { keepVariance, morph })
    if (!mixed) return plan
    out.push(mixed)
  }
  return { ...plan, frames: out, delaysMs: plan.delaysMs.slice(K) }
}

/**
 * Each region shows its own loop; all of them as far on as the first at each frame, so that what was filmed at one moment is shown at one where that can be. All delays
 * become the median.
 */
function inRegions(plan: Plan, { length, map, loops }: Regions): Plan {
  const count = plan.frames.length
  const fits = ({ start, period, overlap }: OwnLoop) =>
    start - Math.max(0, overlap) >= 0 && start + period - Math.min(0, overlap) <= count && Math.abs(overlap) <= period
  const [first] = loops
  if (!first || length < 2 || !loops.every(fits) || plan.frames.some((frame) => 'map' in frame)) return plan
  const at = (n: number) => plan.frames[n] as Mixed
  const shown = (n: number, { start, period, overlap }: OwnLoop): Mixed => {
    const ahead = first.start + n - start
    const i = ((ahead % period) + period) % period
    const own = at(start + i)
    const K = Math.abs(overlap)
    const k = overlap > 0 ? i - (period - K) : i
    if (K === 0 || k < 0 || k >= K) return own
    const w = smooth((k + 1) / (K + 1))
    const other = at(start + i + (overlap > 0 ? -period : period))
    return mixOf(own, other, overlap > 0 ? w : 1 - w, { keepVariance: true }) ?? own
  }
  const delay = median(plan.delaysMs)
  return {
    ...plan,
    frames: Array.from({ length }, (_, n) => ({ map, pieces: loops.map((loop) => shown(n, loop)) })),
    delaysMs: Array.from({ length }, () => delay),
  }
}

function evenExposure(plan: Plan, { means }: ClipShape): Plan {
  const N = plan.frames.length
  if (N < 3 || plan.frames.some((frame) => 'map' in frame)) return plan
  const frames = plan.frames as readonly Mixed[]
  const meanOf = (n: number, channel: number) =>
    (frames[n] as Mixed).parts.reduce(
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
    frames: frames.map((frame, n) => ({
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
