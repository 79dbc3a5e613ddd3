import { type Fraction, fraction, greatestCommonDivisor, leastCommonMultiple, multiply } from '../clock'

/**
 * The common period of positive fractions: the least number that is a whole multiple of each.
 * For a/b and c/d in lowest terms it is lcm(a, c)/gcd(b, d).
 * @throws RangeError where it is too large to be exact.
 */
export const commonPeriod = (periods: readonly Fraction[]): Fraction =>
  periods.reduce((a, b) => {
    if (b.num <= 0) throw new RangeError('a period lies above 0')
    return fraction(leastCommonMultiple(a.num, b.num), greatestCommonDivisor(a.den, b.den))
  })

/** A period that is wanted: in seconds, with the fold that lets a part of it come home. */
export interface WantedPeriod {
  readonly seconds: Fraction
  /** The motion looks the same after 1/fold of its period; 1 where only a whole one comes home, 1/k where only k of them do. */
  readonly fold?: number
}

/** The shortest whole length, in frames, at which every period comes home exactly; null where none is up to `most`. */
export function exactLength(periods: readonly WantedPeriod[], rate: Fraction, most: number): number | null {
  if (periods.length === 0) return 1
  try {
    const frames = periods.map(({ seconds, fold = 1 }) =>
      multiply(multiply(seconds, rate), fold < 1 ? fraction(Math.round(1 / fold)) : fraction(1, fold)),
    )
    const { num } = commonPeriod([fraction(1), ...frames])
    return num <= most ? num : null
  } catch {
    return null
  }
}

/** The whole numbers that divide n, ascending. */
export function divisors(n: number): number[] {
  const low: number[] = []
  const high: number[] = []
  for (let d = 1; d * d <= n; d++) {
    if (n % d !== 0) continue
    low.push(d)
    if (d * d < n) high.unshift(n / d)
  }
  return [...low, ...high]
}
