import { type Fraction, toNumber } from '@/core/clock'
import { SEAM_REACH } from '@/store/session'

/** The frames that are played, in order: all of them, or those around the seam. */
export function playedFrames(length: number, aroundSeam: boolean): number[] {
  const reach = Math.min(SEAM_REACH, Math.floor(length / 2))
  if (!aroundSeam || 2 * reach >= length) return Array.from({ length }, (_, n) => n)
  return Array.from({ length: 2 * reach }, (_, i) => (length - reach + i) % length)
}

/**
 * Which of the played frames is due at a time: the true rate, whatever the screen's own is. Counted from where playing
 * began, so that no rounding adds up.
 */
export const dueIndex = (elapsedMs: number, rate: Fraction, pace: number, first: number, count: number): number =>
  (first + Math.floor((elapsedMs / 1000) * toNumber(rate) * pace + 1e-6)) % count

/** Counts the frames that were shown over the last second. */
export class PaceMeter {
  private readonly times: number[] = []
  private started = 0

  start(now: number): void {
    this.times.length = 0
    this.started = now
  }
  /** A new frame was shown. */
  shown(now: number): void {
    this.times.push(now)
  }
  /** Frames per second shown; null in the first half second, when it cannot be told yet. */
  rate(now: number): number | null {
    while (this.times.length > 0 && (this.times[0] as number) <= now - 1000) this.times.shift()
    const since = Math.min(1000, now - this.started)
    return since < 500 ? null : (this.times.length * 1000) / since
  }
}

/** Whether a measured rate keeps the wanted one, as far as a count over one second can tell: one frame either way. */
export const keepsPace = (measured: number, wanted: number): boolean =>
  measured >= wanted - Math.max(1.01, wanted * 0.03)
