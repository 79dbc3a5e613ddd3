import { type Fraction, toNumber } from './fraction'

/** The shortest delay, in hundredths of a second, that common viewers honour: below it they take 10. */
export const SHORTEST_DELAY_CS = 2

/**
 * Delays of N frames at a rate, in whole hundredths of a second: delayₙ = round(100(n+1)/r) − round(100n/r).
 * The sum stays within half a hundredth of N/r, whatever the rate.
 */
export function gifDelays(length: number, rate: Fraction): number[] {
  const hundredths = (n: number) => Math.floor((200 * n * rate.den + rate.num) / (2 * rate.num))
  return Array.from({ length }, (_, n) => hundredths(n + 1) - hundredths(n))
}

/** How even a series of delays is: the least delay as a share of the greatest, 1 when all are alike. */
export const evenness = (delays: readonly number[]): number => Math.min(...delays) / Math.max(...delays)

/** How a loop is written to a GIF: which (possibly fractional) frames, and how long each is shown. */
export interface GifTiming {
  /** The frames of the loop that are written; fractional where the loop is sampled between its frames. */
  readonly frames: readonly number[]
  readonly delaysCs: readonly number[]
  /** The rate that results, as a number of frames per second. */
  readonly rate: number
  /** True when fewer frames are written than the loop has, since its own rate cannot be expressed. */
  readonly thinned: boolean
}

/**
 * The timing of a GIF. Where the rate asks for delays under two hundredths, the loop is sampled at fewer, evenly
 * spaced points of the same total time: the largest divisor of N that is slow enough, if that keeps at least
 * half of the fastest possible rate; otherwise the fastest possible count.
 */
export function gifTiming(length: number, rate: Fraction): GifTiming {
  const own = gifDelays(length, rate)
  if (Math.min(...own) >= SHORTEST_DELAY_CS)
    return { frames: own.map((_, n) => n), delaysCs: own, rate: toNumber(rate), thinned: false }
  const totalCs = own.reduce((sum, delay) => sum + delay, 0)
  const most = Math.max(1, Math.floor(totalCs / SHORTEST_DELAY_CS))
  let count = most
  for (let divisor = 2; length / divisor >= most / 2; divisor++)
    if (length % divisor === 0 && length / divisor <= most) {
      count = length / divisor
      break
    }
  const delaysCs = Array.from(
    { length: count },
    (_, n) => Math.round((totalCs * (n + 1)) / count) - Math.round((totalCs * n) / count),
  )
  const frames = delaysCs.map((_, n) => (n * length) / count)
  return { frames, delaysCs, rate: (count * toNumber(rate)) / length, thinned: true }
}
