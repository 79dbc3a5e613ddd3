import { type Fraction, fraction, multiply, toNumber } from './fraction'

/** The shortest delay, in hundredths of a second, that common viewers honour: below it they take 10. */
const MIN_DELAY_CS = 2

/** Delays of N frames at a rate, in whole ticks of 1/t s: delayₙ = round(t(n+1)/r) − round(tn/r). */
function wholeDelays(length: number, rate: Fraction, ticks: number): number[] {
  const at = (n: number) => Math.floor((2 * ticks * n * rate.den + rate.num) / (2 * rate.num))
  return Array.from({ length }, (_, n) => at(n + 1) - at(n))
}

/**
 * Delays of N frames at a rate, in whole hundredths of a second. The sum stays within half a hundredth of N/r, whatever
 * the rate.
 */
export const gifDelays = (length: number, rate: Fraction): number[] => wholeDelays(length, rate, 100)

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
 * Number of evenly spaced frames to keep of a loop of N, at most `most`: the largest divisor of N, if that keeps at
 * least half of what is allowed; otherwise `most` itself.
 */
function thinnedCount(length: number, most: number): number {
  for (let divisor = 2; length / divisor >= most / 2; divisor++)
    if (length % divisor === 0 && length / divisor <= most) return length / divisor
  return most
}

/** Timing of a file that counts in whole ticks, no delay shorter than `shortest`. */
function tickTiming(length: number, rate: Fraction, ticks: number, shortest: number) {
  const own = wholeDelays(length, rate, ticks)
  if (Math.min(...own) >= shortest)
    return { frames: own.map((_, n) => n), delays: own, rate: toNumber(rate), thinned: false }
  const total = own.reduce((sum, delay) => sum + delay, 0)
  const count = thinnedCount(length, Math.max(1, Math.floor(total / shortest)))
  const at = (n: number) => Math.round((total * n) / count)
  const delays = Array.from({ length: count }, (_, n) => at(n + 1) - at(n))
  const frames = delays.map((_, n) => (n * length) / count)
  return { frames, delays, rate: (count * toNumber(rate)) / length, thinned: true }
}

/**
 * The timing of a GIF. Where the rate asks for delays under two hundredths, the loop is sampled at fewer, evenly
 * spaced points of the same total time: the largest divisor of N that is slow enough, if that keeps at least
 * half of the fastest possible rate; otherwise the fastest possible count.
 */
export function gifTiming(length: number, rate: Fraction): GifTiming {
  const { delays, ...timing } = tickTiming(length, rate, 100, MIN_DELAY_CS)
  return { ...timing, delaysCs: delays }
}

/** The kinds of file that a loop is written to. */
export const FILE_FORMATS = [
  ...(['gif', 'apng', 'webp', 'avif', 'mp4', 'webm'] as const),
  ...(['svg', 'lottie', 'png-sequence', 'sprite-sheet'] as const),
] as const
export type FileFormat = (typeof FILE_FORMATS)[number]

/** How a loop is written to a file: which (possibly fractional) frames, and how long each is shown. */
export interface FileTiming {
  readonly frames: readonly number[]
  /** Seconds, exact. */
  readonly delays: readonly Fraction[]
  /** Frames per second that result. */
  readonly rate: number
  readonly thinned: boolean
  /** Whether the file can say the loop's own rate exactly. */
  readonly exact: boolean
}

/** Shortest delay that common viewers keep, ms; shorter ones are shown for 100 ms. */
const HONOURED_MS = 11
/** APNG writes a delay as a fraction of two numbers of 16 bits. */
const MAX_PART = 65_535

/** The nearest fraction of which neither part is larger than 16 bits hold: the last such convergent of its continued fraction. */
export function nearestFraction({ num, den }: Fraction): Fraction {
  if (num <= MAX_PART && den <= MAX_PART) return fraction(num, den)
  let a = num
  let b = den
  let p = 1
  let q = 0
  let before = [0, 1] as readonly [number, number]
  while (b > 0) {
    const whole = Math.floor(a / b)
    const nextP = whole * p + before[0]
    const nextQ = whole * q + before[1]
    if (nextP > MAX_PART || nextQ > MAX_PART) break
    before = [p, q]
    p = nextP
    q = nextQ
    const rest = a - whole * b
    a = b
    b = rest
  }
  return fraction(p, Math.max(1, q))
}

/**
 * The timing of a loop in a file. GIF counts in hundredths, WebP in thousandths, both rounded so that the sum stays true; APNG
 * says a fraction, video any; pictures by themselves have the loop's own. What viewers of GIF, WebP and APNG would not honour
 * is thinned.
 */
export function fileTiming(format: FileFormat, length: number, rate: Fraction): FileTiming {
  const own = fraction(rate.den, rate.num)
  if (format === 'gif' || format === 'webp') {
    const [ticks, shortest] = format === 'gif' ? [100, MIN_DELAY_CS] : [1000, HONOURED_MS]
    const { delays, ...timing } = tickTiming(length, rate, ticks, shortest)
    const exact = !timing.thinned && (ticks * rate.den) % rate.num === 0
    return { ...timing, delays: delays.map((delay) => fraction(delay, ticks)), exact }
  }
  if (format === 'apng') {
    const slow = toNumber(own) * 1000 >= HONOURED_MS
    const seconds = multiply(fraction(length), own)
    const count = slow
      ? length
      : thinnedCount(length, Math.max(1, Math.floor((1000 * toNumber(seconds)) / HONOURED_MS)))
    const exact = multiply(seconds, fraction(1, count))
    const delay = nearestFraction(exact)
    return {
      frames: Array.from({ length: count }, (_, n) => (n * length) / count),
      delays: new Array<Fraction>(count).fill(delay),
      rate: 1 / toNumber(delay),
      thinned: !slow,
      exact: slow && delay.num === exact.num && delay.den === exact.den,
    }
  }
  return {
    frames: Array.from({ length }, (_, n) => n),
    delays: new Array<Fraction>(length).fill(own),
    rate: toNumber(rate),
    thinned: false,
    exact: true,
  }
}
