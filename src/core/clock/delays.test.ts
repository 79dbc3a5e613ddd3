import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, FILE_FORMATS, fileTiming, fraction, nearestFraction, toNumber } from '.'

const RATES = [...Array.from({ length: 51 }, (_, i) => fraction(10 + i)), ...COMMON_RATES]
const total = (delays: readonly { num: number; den: number }[]) => delays.reduce((sum, each) => sum + toNumber(each), 0)

describe('the timing of a file', () => {
  it.each(FILE_FORMATS)('keeps the time of the loop in %s, at every rate and length', (format) => {
    fc.assert(
      fc.property(fc.constantFrom(...RATES), fc.integer({ min: 1, max: 600 }), (rate, length) => {
        const { frames, delays, thinned, exact } = fileTiming(format, length, rate)
        expect(frames).toHaveLength(delays.length)
        const tick = { gif: 0.01, webp: 0.001 }[format as string] ?? 0
        expect(Math.abs(total(delays) - length / toNumber(rate))).toBeLessThanOrEqual(tick / 2 + 1e-4)
        expect(frames[0]).toBe(0)
        if (!thinned) expect(frames).toEqual(Array.from({ length }, (_, n) => n))
        if (exact) for (const delay of delays) expect(toNumber(delay) * toNumber(rate)).toBeCloseTo(1, 12)
      }),
      { numRuns: 150 },
    )
  })
  it('is exact wherever the format can say the rate', () => {
    const exact = (format: (typeof FILE_FORMATS)[number], num: number, den = 1) =>
      fileTiming(format, 24, fraction(num, den)).exact
    expect([50, 25, 20, 10].map((rate) => exact('gif', rate))).toEqual([true, true, true, true])
    expect([30, 24, 60].map((rate) => exact('gif', rate))).toEqual([false, false, false])
    expect([50, 40, 8].map((rate) => exact('webp', rate))).toEqual([true, true, true])
    expect(exact('webp', 30)).toBe(false)
    for (const { num, den } of COMMON_RATES.filter((each) => toNumber(each) <= 90))
      for (const format of ['apng', 'mp4', 'webm', 'png-sequence'] as const) expect(exact(format, num, den)).toBe(true)
  })
  it('asks no viewer for a delay that it would replace', () => {
    for (const format of ['gif', 'webp', 'apng'] as const)
      for (const rate of [100, 120, 144, 240]) {
        const { delays, thinned } = fileTiming(format, 240, fraction(rate))
        expect(Math.min(...delays.map(toNumber))).toBeGreaterThan(0.01)
        expect(thinned).toBe(true)
      }
  })
})

describe('the nearest fraction of 16 bits', () => {
  it('is the fraction itself where it fits, and near it where not', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 1e6 }), (num, den) => {
        const near = nearestFraction(fraction(num, den))
        expect(near.num).toBeLessThanOrEqual(65_535)
        expect(near.den).toBeLessThanOrEqual(65_535)
        fc.pre(num / den < 60_000 && den / num < 60_000)
        expect(Math.abs((near.num / near.den) * (den / num) - 1)).toBeLessThan(1e-4)
      }),
    )
    expect(nearestFraction(fraction(1001, 30_000))).toEqual({ num: 1001, den: 30_000 })
  })
})
