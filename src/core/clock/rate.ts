import { equal, type Fraction, fraction, parseFraction, toNumber } from './fraction'

/** The rates that a brief offers, frames per second. */
export const COMMON_RATES: readonly Fraction[] = [
  fraction(12),
  fraction(15),
  fraction(24000, 1001),
  fraction(24),
  fraction(25),
  fraction(30000, 1001),
  fraction(30),
  fraction(50),
  fraction(60000, 1001),
  fraction(60),
]

export const MAX_RATE = 240

/**
 * The rate that a text means. Decimals that abbreviate a 1001 fraction (23.976, 29.97, 59.94) mean that fraction
 * exactly, since no camera or player runs at 2997/100.
 * @throws RangeError when it is not a number or fraction above 0 and up to 240.
 */
export function parseRate(text: string): Fraction {
  const rate = parseFraction(text.replace(/\s*(fps|\/\s*s)\s*$/i, ''))
  if (rate.num === 0 || toNumber(rate) > MAX_RATE)
    throw new RangeError(`a rate lies above 0 and goes up to ${MAX_RATE} frames per second`)
  const ntsc = fraction(Math.ceil(toNumber(rate)) * 1000, 1001)
  const abbreviates = rate.den !== 1001 && Math.abs(toNumber(ntsc) - toNumber(rate)) < 0.0051 && rate.den >= 50
  return abbreviates && !equal(rate, ntsc) ? ntsc : rate
}

/** `24`, `12.5`, or `30000/1001` for rates that no short decimal gives exactly. */
export function formatRate(rate: Fraction): string {
  const decimal = toNumber(rate)
  return Number.isInteger(decimal * 1000) ? String(decimal) : `${rate.num}/${rate.den}`
}
