import { z } from 'zod'
import { lineThrough } from '../../../statistics'
import type { MendKind } from '../mend-kind'
import type { ClipPlan, ClipShape, Gain, Mixed, PlanFrame } from '../plan'

interface EvenExposure {
  readonly kind: 'even-exposure'
}

/** Each frame is brought back along the straight line that its mean follows, to the mean of all. */
export const evenExposureMend: MendKind<EvenExposure> = {
  schema: z.object({ kind: z.literal('even-exposure') }),
  // The line of exposure begins at frame 0: it does not mend what jumps back elsewhere.
  answers: ({ kind, frame }, count) =>
    kind === 'drift' && frame === count - 1
      ? [{ label: 'Even out exposure and colour', mend: { kind: 'even-exposure' } }]
      : [],
  words: () => 'exposure and colour evened out',
  apply: (plan, _, clip) => evened(plan, clip),
}

function evened(plan: ClipPlan, { means }: ClipShape): ClipPlan {
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
  const brought = (frame: PlanFrame, n: number): PlanFrame =>
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
    frames: frames.map(brought),
    before: plan.before.map((frame, n) => brought(frame, n - plan.before.length)),
    after: plan.after.map((frame, n) => brought(frame, N + n)),
  }
}
