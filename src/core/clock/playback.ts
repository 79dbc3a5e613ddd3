import { type Fraction, toNumber } from './fraction'

/** The frames that are played around the seam: this many on each side of it. */
const SEAM_REACH = 6

/** The frames that are played, in order: all of them, or those around the seam. */
export function playedFrames(length: number, aroundSeam: boolean): number[] {
  const reach = Math.min(SEAM_REACH, Math.floor(length / 2))
  if (!aroundSeam || 2 * reach >= length) return Array.from({ length }, (_, n) => n)
  return Array.from({ length: 2 * reach }, (_, i) => (length - reach + i) % length)
}

/** Playback state: the frame and the moment it started. Every view that shows running time derives from this. */
export interface Playback {
  /** The frames, in the order in which they are shown again and again. */
  readonly order: readonly number[]
  /** The place in the order that was shown when playing began. */
  readonly first: number
  /** Frames per second of the loop. */
  readonly rate: Fraction
  /** 1 is the true pace, 0.5 half of it. */
  readonly pace: number
  /** ms, by a clock that whoever shows time shares. */
  readonly startedAt: number
}

/** How long each frame is shown, ms. */
export const frameMs = ({ rate, pace }: Pick<Playback, 'rate' | 'pace'>): number => 1000 / (toNumber(rate) * pace)

/** How many frames have been due since playing began: counted from there, so that no rounding adds up. */
export const framesDue = (playback: Playback, at: number): number =>
  Math.max(0, Math.floor((at - playback.startedAt) / frameMs(playback) + 1e-6))

/** The frame that is due at a time: the true rate, whatever the screen's own is. */
export const dueFrame = (playback: Playback, at: number): number =>
  playback.order[(playback.first + framesDue(playback, at)) % playback.order.length] ?? 0

/** Counts the frames that were shown over the last second. */
export class PaceMeter {
  private readonly times: number[] = []

  constructor(private readonly started: number) {}

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
