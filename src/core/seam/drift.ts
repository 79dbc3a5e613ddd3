import { lineThrough } from '../statistics'
import { CHANNELS, type Plane } from './descriptor'
import type { Series } from './series'

/** Half of what is just noticed as a difference in OKLab: less is seen by nobody. */
const VISIBLE = 0.01
/** The drift stands at least this many standard deviations above the residual noise. */
const DRIFT_DEVIATIONS = 4

/** How the whole picture drifts, and where it jumps back. */
export interface Drift {
  readonly to: 'darker' | 'lighter' | 'another tint'
  /** The last frame before it jumps back. */
  readonly frame: number
}

/**
 * The way in which the whole picture drifts; null where it does not. Taken from the median pixel of each frame, which
 * what moves before a ground does not touch: it changes steadily, by more than what is left beside a straight line
 * (least squares), and one step takes it back. Where frame 0 lies does not matter.
 */
export function driftOf({ N, frame, frames }: Series): Drift | null {
  if (N < 8) return null
  // Finely, so that what moves does not run into the ground; and coarsely, so that dither does not step.
  const scales = frames[0]?.length ?? 1
  for (const scale of new Set([Math.min(1, scales - 1), Math.max(0, scales - 2)]))
    for (const channel of [0, 1, 2] as const) {
      const middles = Array.from({ length: N }, (_, n) => middlePixel(frame(n)[scale], channel))
      const changes = middles.map((value, n) => middles[(n + 1) % N] - value)
      const last = changes.reduce((most, each, n) => (Math.abs(each) > Math.abs(changes[most]) ? n : most), 0)
      const { slope, left } = lineThrough([...middles.slice(last + 1), ...middles.slice(0, last + 1)])
      const whole = slope * (N - 1)
      const steady = Math.abs(whole) > Math.max(VISIBLE, DRIFT_DEVIATIONS * left)
      const returns = Math.abs(changes[last] + whole) < 0.5 * Math.abs(whole)
      const from = frame(last + 1)[scale]
      const to = frame(last)[scale]
      if (steady && returns && mostFollow(from, to, channel, whole))
        return { to: channel === 0 ? (whole < 0 ? 'darker' : 'lighter') : 'another tint', frame: last }
    }
  return null
}

/** At least this share of all pixels follows the median one; in a texture that slides by, some do and some do not. */
const FOLLOWERS = 0.7

function mostFollow(first: Plane, last: Plane, channel: number, whole: number): boolean {
  let follow = 0
  for (let i = channel; i < first.values.length; i += CHANNELS) {
    const change = last.values[i] - first.values[i]
    if (change * whole > 0 && Math.abs(change) > 0.2 * Math.abs(whole)) follow++
  }
  return follow >= FOLLOWERS * (first.values.length / CHANNELS)
}

function middlePixel({ values }: Plane, channel: number): number {
  const own = new Float32Array(values.length / CHANNELS)
  for (let i = 0; i < own.length; i++) own[i] = values[CHANNELS * i + channel]
  return own.sort()[own.length >> 1]
}
