import { compare, divide, type Fraction, fraction, loopSeconds, multiply } from '../clock'
import { divisors } from './common'

/** A loop repeated a whole number of times. */
interface Repeats {
  readonly repeats: number
  readonly seconds: Fraction
}

/** Ways to fill a duration with a loop. */
export interface DurationFill {
  /** ⌊D/T⌋ repeats; null where the loop is longer than the duration. */
  readonly below: Repeats | null
  /** ⌈D/T⌉ repeats; null where the repeats below fill the duration exactly. */
  readonly above: Repeats | null
  /** Lengths that divide the duration exactly, with the speed that each costs; the nearest first. */
  readonly exact: readonly {
    readonly length: number
    readonly repeats: number
    /** Speed of every motion against now: above 1 is faster. */
    readonly speed: number
  }[]
}

/**
 * How a loop of N frames fills a duration of D seconds: whole repeats, or another length that divides D exactly.
 * @throws RangeError when the duration is not above 0.
 */
export function fillDuration(duration: Fraction, length: number, rate: Fraction, most: number): DurationFill {
  if (duration.num <= 0) throw new RangeError('the time to fill lies above 0')
  const time = loopSeconds(length, rate)
  const ratio = divide(duration, time)
  const count = Math.floor(ratio.num / ratio.den)
  const of = (repeats: number): Repeats => ({ repeats, seconds: multiply(time, fraction(repeats)) })
  const fits = count > 0 && compare(of(count).seconds, duration) === 0
  const frames = multiply(duration, rate)
  const exact =
    frames.den === 1 && frames.num <= 1e9
      ? divisors(frames.num)
          .filter((each) => each > 1 && each <= most && each !== length)
          .map((each) => ({ length: each, repeats: frames.num / each, speed: length / each }))
          .sort((a, b) => Math.abs(Math.log(a.speed)) - Math.abs(Math.log(b.speed)))
          .slice(0, 4)
      : []
  return { below: count > 0 ? of(count) : null, above: fits ? null : of(count + 1), exact }
}
