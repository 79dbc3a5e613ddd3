import { compare, divide, type Fraction, fraction, multiply, roundFraction, toNumber } from './fraction'
import { MAX_RATE } from './rate'

/** The longest loop, in frames: ten minutes at 60 frames per second. */
export const MAX_LENGTH = 36_000

/** Loop time T = N/r in exact seconds. */
export const loopSeconds = (length: number, rate: Fraction): Fraction => divide(fraction(length), rate)

/** n modulo N in [0, N): frame −1 is frame N−1, frame N is frame 0. Works for fractional frames. */
export const wrapFrame = (n: number, length: number): number => {
  const wrapped = n % length
  return wrapped < 0 ? wrapped + length : wrapped + 0
}

/** One frame in degrees of a full turn, and as a share of the loop. */
export const frameWorth = (length: number) => ({ degrees: 360 / length, share: 1 / length })

/** `1.500 s`, exact to the millisecond shown; a longer fraction is marked with ≈. */
export function formatSeconds(seconds: Fraction, places = 3): string {
  const exact = (seconds.num * 10 ** places) % seconds.den === 0
  return `${exact ? '' : '≈ '}${toNumber(seconds).toFixed(places)} s`
}

/** The clock of a loop: rate (frames/s) and length (frames); the loop time follows. */
export interface Clock {
  readonly rate: Fraction
  readonly length: number
}
export type ClockField = 'rate' | 'length' | 'seconds'
export type ClockChange = { rate: Fraction } | { length: number } | { seconds: Fraction }

/** A rate as a loop may have it. @throws RangeError for one of 0, or above the highest. */
function checkRate(rate: Fraction): Fraction {
  if (compare(rate, fraction(0)) <= 0) throw new RangeError('a rate lies above 0')
  if (toNumber(rate) > MAX_RATE)
    throw new RangeError(
      `that asks for ${Number(toNumber(rate).toFixed(2))} frames per second; ${MAX_RATE} is the most`,
    )
  return rate
}

const clampLength = (length: number) => Math.min(MAX_LENGTH, Math.max(1, length))

/**
 * The clock after one of rate, length and seconds has been changed, while another one stays. The third follows.
 * A length is whole, so where the seconds would need a broken frame count the nearest whole one is taken and the
 * seconds follow from it. When the changed field is itself the fixed one, the length is kept.
 * @throws RangeError when the change asks for a time or rate of 0, or a rate above the highest.
 */
export function changeClock(clock: Clock, change: ClockChange, fixed: ClockField): Clock {
  const seconds = loopSeconds(clock.length, clock.rate)
  if ('length' in change) {
    const length = clampLength(Math.round(change.length))
    return fixed === 'seconds' ? { length, rate: checkRate(divide(fraction(length), seconds)) } : { ...clock, length }
  }
  if ('rate' in change) {
    checkRate(change.rate)
    if (fixed !== 'seconds') return { ...clock, rate: change.rate }
    return { rate: change.rate, length: clampLength(roundFraction(multiply(seconds, change.rate))) }
  }
  if (compare(change.seconds, fraction(0)) <= 0) throw new RangeError('a loop lasts longer than 0 seconds')
  if (fixed === 'length') return { ...clock, rate: checkRate(divide(fraction(clock.length), change.seconds)) }
  return { ...clock, length: clampLength(roundFraction(multiply(change.seconds, clock.rate))) }
}
