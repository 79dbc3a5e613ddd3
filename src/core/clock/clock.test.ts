import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  COMMON_RATES,
  changeClock,
  divide,
  equal,
  evenness,
  formatRate,
  fraction,
  gifDelays,
  gifTiming,
  loopSeconds,
  MAX_LENGTH,
  MAX_RATE,
  multiply,
  parseFraction,
  parseRate,
  roundFraction,
  toNumber,
  wrapFrame,
} from '.'

const anyRate = fc.oneof(
  fc.constantFrom(...COMMON_RATES),
  fc.tuple(fc.integer({ min: 1, max: 240_000 }), fc.integer({ min: 1000, max: 1001 })).map(([n, d]) => fraction(n, d)),
)
const anyLength = fc.integer({ min: 1, max: 600 })

describe('fractions', () => {
  it('are kept in lowest terms', () => {
    expect(fraction(60000, 2002)).toEqual({ num: 30000, den: 1001 })
    expect(fraction(3, -6)).toEqual({ num: -1, den: 2 })
    expect(() => fraction(1, 0)).toThrow(RangeError)
    expect(() => fraction(0.5)).toThrow('0.5/1')
  })
  it('divide and multiply back exactly', () => {
    fc.assert(fc.property(anyRate, anyRate, (a, b) => equal(multiply(divide(a, b), b), a)))
  })
  it('read decimals and quotients', () => {
    expect(parseFraction('1.25')).toEqual({ num: 5, den: 4 })
    expect(parseFraction(' 24000 / 1001 ')).toEqual({ num: 24000, den: 1001 })
    expect(() => parseFraction('fast')).toThrow('neither a number')
  })
})

describe('rates', () => {
  it('take the usual abbreviations for the 1001 fractions they abbreviate', () => {
    for (const [text, num] of [
      ['23.976', 24000],
      ['23.98', 24000],
      ['29.97', 30000],
      ['59.94', 60000],
    ] as const)
      expect(parseRate(text)).toEqual({ num, den: 1001 })
  })
  it.each([24, 25, 30, 50, 60])('keep %d whole', (rate) => {
    expect(parseRate(String(rate))).toEqual({ num: rate, den: 1 })
  })
  it('keep other decimals as they are', () => {
    expect(parseRate('12.5')).toEqual({ num: 25, den: 2 })
    expect(parseRate('33.3')).toEqual({ num: 333, den: 10 })
  })
  it('refuse zero and more than 240', () => {
    expect(() => parseRate('0')).toThrow('above 0')
    expect(() => parseRate('1000')).toThrow('up to 240')
  })
  it('come back from their own text', () => {
    fc.assert(fc.property(fc.constantFrom(...COMMON_RATES), (rate) => equal(parseRate(formatRate(rate)), rate)))
  })
})

describe('the clock', () => {
  const clock = { rate: fraction(24), length: 48 }
  it('is exact at every rate: rate × seconds is the length', () => {
    fc.assert(
      fc.property(anyRate, anyLength, (rate, length) =>
        equal(multiply(loopSeconds(length, rate), rate), fraction(length)),
      ),
    )
  })
  it('lets the length follow new seconds, or the rate', () => {
    expect(changeClock(clock, { seconds: fraction(3) }, 'rate')).toEqual({ rate: fraction(24), length: 72 })
    expect(changeClock(clock, { seconds: fraction(3) }, 'length')).toEqual({ rate: fraction(16), length: 48 })
  })
  it('keeps the seconds under a new rate or a new length', () => {
    expect(changeClock(clock, { rate: fraction(60) }, 'seconds').length).toBe(120)
    expect(changeClock(clock, { length: 60 }, 'seconds').rate).toEqual(fraction(30))
  })
  it('takes the nearest whole length where the seconds ask for a broken one', () => {
    const next = changeClock(clock, { rate: fraction(30000, 1001) }, 'seconds')
    expect(next.length).toBe(60)
    expect(loopSeconds(next.length, next.rate)).toEqual(fraction(1001, 500))
  })
  it('never gives a rate or a length that a loop cannot have', () => {
    const change = fc.oneof(
      fc.integer({ min: -10, max: 10_000_000 }).map((length) => ({ length })),
      fc.tuple(fc.integer({ min: 1, max: 100_000 }), fc.integer({ min: 1, max: 2000 })).map(([num, den]) => ({
        seconds: fraction(num, den),
      })),
      anyRate.map((rate) => ({ rate })),
    )
    fc.assert(
      fc.property(
        anyRate,
        anyLength,
        change,
        fc.constantFrom('rate', 'length', 'seconds'),
        (rate, length, to, fixed) => {
          try {
            const next = changeClock({ rate, length }, to, fixed)
            expect(next.length).toBeGreaterThanOrEqual(1)
            expect(next.length).toBeLessThanOrEqual(MAX_LENGTH)
            expect(Number.isInteger(next.length)).toBe(true)
            expect(toNumber(next.rate)).toBeGreaterThan(0)
            expect(toNumber(next.rate)).toBeLessThanOrEqual(MAX_RATE)
          } catch (error) {
            expect(error).toBeInstanceOf(RangeError)
          }
        },
      ),
      { numRuns: 500 },
    )
    expect(() => changeClock(clock, { length: 2400 }, 'seconds')).toThrow('1200 frames per second; 240 is the most')
  })
  it('puts every frame back into the loop', () => {
    expect(wrapFrame(-1, 48)).toBe(47)
    expect(wrapFrame(48, 48)).toBe(0)
    expect(wrapFrame(48.5, 48)).toBe(0.5)
  })
})

describe('GIF delays', () => {
  it('sum to the time of the loop within half a hundredth, for every rate and length', () => {
    fc.assert(
      fc.property(anyRate, anyLength, (rate, length) => {
        const sum = gifDelays(length, rate).reduce((a, b) => a + b, 0)
        return Math.abs(sum - (100 * length) / toNumber(rate)) <= 0.5 + 1e-9
      }),
      { numRuns: 1000 },
    )
  })
  it('are all alike where a hundredth can express the rate', () => {
    for (const rate of [fraction(50), fraction(100, 3), fraction(25), fraction(20), fraction(25, 2), fraction(10)])
      expect(evenness(gifDelays(60, rate))).toBe(1)
    expect(evenness(gifDelays(24, fraction(24)))).toBe(4 / 5)
  })
  it('are never under two when written, keep the total and space the frames evenly', () => {
    fc.assert(
      fc.property(anyRate, anyLength, (rate, length) => {
        const total = roundFraction(fraction(100 * length * rate.den, rate.num))
        fc.pre(total >= 2)
        const { frames, delaysCs } = gifTiming(length, rate)
        expect(Math.min(...delaysCs)).toBeGreaterThanOrEqual(2)
        expect(delaysCs.reduce((a, b) => a + b, 0)).toBe(total)
        const gap = length / frames.length
        for (const [i, frame] of frames.entries()) expect(frame).toBeCloseTo(i * gap, 9)
      }),
    )
  })
  it('thin 60 frames per second to every second frame', () => {
    const timing = gifTiming(120, fraction(60))
    expect(timing.thinned).toBe(true)
    expect(timing.frames.slice(0, 3)).toEqual([0, 2, 4])
  })
})
