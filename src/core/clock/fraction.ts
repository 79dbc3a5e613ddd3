/** An exact fraction in lowest terms with a positive denominator. Rates (frames/s) and times (s) are fractions. */
export interface Fraction {
  readonly num: number
  readonly den: number
}

/** The greatest whole number that divides both. */
export const greatestCommonDivisor = (a: number, b: number): number =>
  b === 0 ? Math.abs(a) : greatestCommonDivisor(b, a % b)

/** The least whole number that both divide. */
export const leastCommonMultiple = (a: number, b: number): number => (a / greatestCommonDivisor(a, b)) * b

/**
 * The fraction num/den in lowest terms.
 * @throws RangeError when a part is not a safe whole number, or the denominator is 0.
 */
export function fraction(num: number, den = 1): Fraction {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || den === 0)
    throw new RangeError(`${num}/${den} is not a fraction of whole numbers`)
  const divisor = greatestCommonDivisor(num, den) * Math.sign(den)
  return { num: num / divisor + 0, den: den / divisor }
}

export const multiply = (a: Fraction, b: Fraction): Fraction => {
  const x = fraction(a.num, b.den)
  const y = fraction(b.num, a.den)
  return fraction(x.num * y.num, x.den * y.den)
}
export const divide = (a: Fraction, b: Fraction): Fraction => multiply(a, fraction(b.den, b.num))
export const toNumber = (a: Fraction): number => a.num / a.den
export const equal = (a: Fraction, b: Fraction): boolean => a.num === b.num && a.den === b.den

/** a.num·b.den − b.num·a.den: negative, zero or positive as a is less than, equal to or greater than b. */
export const compare = (a: Fraction, b: Fraction): number => a.num * b.den - b.num * a.den

/** Nearest whole number to a fraction; halves round up. Exact: no division is rounded on the way. */
export const roundFraction = ({ num, den }: Fraction): number => Math.floor((2 * num + den) / (2 * den))

/**
 * The fraction that a decimal or a quotient stands for: `1.25` is 5/4, `30000/1001` is itself.
 * @throws RangeError when the text is neither, or needs more than nine decimals.
 */
export function parseFraction(text: string): Fraction {
  const match = /^\s*(\d+)(?:\.(\d{1,9}))?\s*(?:\/\s*(\d+)(?:\.(\d{1,9}))?)?\s*$/.exec(text)
  if (!match) throw new RangeError(`“${text}” is neither a number nor a fraction such as 30000/1001`)
  const [, whole = '0', decimals = '', divisor = '1', divisorDecimals = ''] = match
  const decimal = (a: string, b: string) => fraction(Number(a + b), 10 ** b.length)
  return divide(decimal(whole, decimals), decimal(divisor, divisorDecimals))
}
