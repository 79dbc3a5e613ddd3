import { lineThrough, median } from '../statistics'
import { type Between, inRegions, overlapped, pacedPlan, type Regions } from './joining'
import { type ClipPlan, type ClipShape, type Gain, type Mixed, type PlanFrame, plainPlan, sourcesOf } from './plan'
import type { SourceMend } from './source'

/** An action that repairs the seam of a clip. Frames are counted as they are when it is applied. */
export type Mend =
  | { readonly kind: 'drop'; readonly frames: readonly number[] }
  | { readonly kind: 'crop'; readonly from: number; readonly to: number }
  | { readonly kind: 'there-and-back' }
  | { readonly kind: 'overlap'; readonly frames: number; readonly keepVariance: boolean; readonly morph?: boolean }
  | Regions
  | { readonly kind: 'reverse' }
  | { readonly kind: 'pace'; readonly speed: number; readonly between: Between }
  | { readonly kind: 'even-exposure' }
  | { readonly kind: 'even-delays' }
  | { readonly kind: 'slower'; readonly delayMs: number }
  | { readonly kind: 'last'; readonly seconds: number }
  | { readonly kind: 'for-ever' }
  | SourceMend

/**
 * The plan with one more mend. A mend that would leave fewer than two frames, or that does not fit, changes nothing.
 * Mixing frames smooths their grain: the plan adds as much grain as was lost, if the clip has any.
 * - overlap: the last K frames fade into the frames before the first: out(n) = mix(f(n), f(n − N), w(n)) for the K frames
 *   at the end. f(n − N) comes from the frames cropped off before them, or f(n + N) from those cropped off after them;
 *   else from the first K frames, which are then cut off, and the loop becomes K frames shorter.
 * - parts: each region of the picture shows a loop of its own.
 * - pace: more or fewer frames, so that everything is slower or faster; reverse: the last one first.
 * - there and back: 2N − 2 frames, the turning frames shown once.
 * - last: the delays are rescaled to the given duration of the clip.
 * - same edge, matte, steady, even light: edits of the source pictures that the plan shows, see source.ts.
 * - even exposure: each frame is brought back along the straight line that its mean follows, to the mean of all.
 */
export function applyMend(plan: ClipPlan, mend: Mend, clip: ClipShape): ClipPlan {
  const N = plan.frames.length
  const at = (kept: readonly number[]): ClipPlan => ({
    ...plan,
    frames: kept.map((n) => plan.frames[n]),
    delaysMs: kept.map((n) => plan.delaysMs[n]),
    before: [],
    after: [],
  })
  const all = Array.from({ length: N }, (_, n) => n)
  switch (mend.kind) {
    case 'drop': {
      const kept = all.filter((n) => !mend.frames.includes(n))
      return kept.length < 2 ? plan : at(kept)
    }
    case 'crop': {
      const from = Math.max(0, mend.from)
      const to = Math.min(N, mend.to + 1)
      if (to - from < 2) return plan
      return {
        ...at(all.slice(from, to)),
        before: [...plan.before, ...plan.frames.slice(0, from)],
        after: [...plan.frames.slice(to), ...plan.after],
      }
    }
    case 'reverse':
      return {
        ...plan,
        frames: plan.frames.toReversed(),
        delaysMs: plan.delaysMs.toReversed(),
        before: plan.after.toReversed(),
        after: plan.before.toReversed(),
      }
    case 'pace':
      return pacedPlan(plan, mend.speed, mend.between)
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
export const mendedPlan = (clip: ClipShape, mends: readonly Mend[]): ClipPlan =>
  mends.reduce((plan, mend) => applyMend(plan, mend, clip), plainPlan(clip))

/** From the first to the last frame of the source that is in it. */
function rangeOf({ frames }: ClipPlan): { readonly from: number; readonly to: number } {
  let from = Infinity
  let to = 0
  for (const frame of frames)
    for (const of of sourcesOf(frame)) {
      from = Math.min(from, of)
      to = Math.max(to, of)
    }
  return { from, to }
}

function evenExposure(plan: ClipPlan, { means }: ClipShape): ClipPlan {
  const N = plan.frames.length
  if (N < 3 || plan.frames.some((frame) => 'map' in frame)) return plan
  const frames = plan.frames as readonly Mixed[]
  const meanOf = (n: number, channel: number) =>
    frames[n].parts.reduce((sum, { frame, weight, gain }) => sum + weight * gain[channel] * means[frame][channel], 0)
  const lines = [0, 1, 2].map((channel) => {
    const { mean, slope } = lineThrough(Array.from({ length: N }, (_, n) => meanOf(n, channel)))
    return (n: number) => {
      const line = mean + slope * (n - (N - 1) / 2)
      return line > 1e-6 && mean > 1e-6 ? mean / line : 1
    }
  })
  const evened = (frame: PlanFrame, n: number): PlanFrame =>
    'map' in frame
      ? frame
      : {
          ...frame,
          parts: frame.parts.map((part) => ({
            ...part,
            gain: part.gain.map((each, channel) => each * lines[channel](n)) as unknown as Gain,
          })),
        }
  return {
    ...plan,
    frames: frames.map(evened),
    before: plan.before.map((frame, n) => evened(frame, n - plan.before.length)),
    after: plan.after.map((frame, n) => evened(frame, N + n)),
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
