import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { equal, type Fraction, fraction, multiply, toNumber } from '../clock'
import { reduceGap } from '../motion'
import {
  commonPeriod,
  divisors,
  exactLength,
  type FitMotion,
  fillDuration,
  fitAt,
  fitFront,
  safeSettings,
  strobing,
} from '.'

const anyPeriod: fc.Arbitrary<Fraction> = fc
  .tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 12 }))
  .map(([num, den]) => fraction(num, den))
const isWhole = ({ den }: Fraction) => den === 1
const times = (a: Fraction, b: Fraction) => multiply(a, fraction(b.den, b.num))

describe('the exact common period', () => {
  it('is the least that is a whole multiple of each: brute force', () => {
    fc.assert(
      fc.property(fc.array(anyPeriod, { minLength: 1, maxLength: 4 }), (periods) => {
        const [first = fraction(1)] = periods
        const found = commonPeriod(periods)
        let least = first
        for (let k = 1; !periods.every((p) => isWhole(times(least, p))); k++) least = multiply(first, fraction(k + 1))
        expect(equal(found, least)).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
  it('gives the shortest whole length, folds counted: brute force', () => {
    const wanted = fc.record({ seconds: anyPeriod, fold: fc.integer({ min: 1, max: 8 }) })
    fc.assert(
      fc.property(
        fc.array(wanted, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(fraction(24), fraction(25), fraction(30000, 1001)),
        (periods, rate) => {
          const homes = (n: number) =>
            periods.every(({ seconds, fold }) => isWhole(times(fraction(n * fold), multiply(seconds, rate))))
          let least: number | null = null
          for (let n = 1; n <= 2000 && least === null; n++) if (homes(n)) least = n
          expect(exactLength(periods, rate, 2000)).toBe(least)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('is none where no length is exact enough to be written down', () => {
    const odd = [1_000_003, 999_983, 999_979].map((num) => ({ seconds: fraction(num, 1_000_000) }))
    expect(exactLength(odd, fraction(30000, 1001), 36_000)).toBeNull()
  })
})

const anyMotion: fc.Arbitrary<FitMotion> = fc.record({
  frames: fc.oneof(fc.integer({ min: 1, max: 90 }), fc.double({ min: 0.7, max: 300, noNaN: true })),
  fold: fc.integer({ min: 1, max: 8 }),
})

describe('the front of short against true', () => {
  it('has every undominated length and no other: brute force', () => {
    fc.assert(
      fc.property(
        fc.array(anyMotion, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 220 }),
        (motions, most) => {
          const all = Array.from({ length: most }, (_, i) => fitAt(motions, i + 1))
          const undominated = all.filter(
            (point) =>
              !all.some((other) => other.length < point.length && other.worstError <= point.worstError + 1e-12),
          )
          expect(fitFront(motions, most)).toEqual(undominated)
        },
      ),
    )
  })
  it('counts cycles in whole numbers, or in parts that the fold allows', () => {
    fc.assert(
      fc.property(fc.array(anyMotion, { minLength: 1, maxLength: 6 }), (motions) => {
        for (const { cycles, length, errors } of fitFront(motions, 300))
          for (const [i, { fold, frames }] of motions.entries()) {
            const count = cycles[i] as number
            expect(Number.isInteger(Math.round(count * fold * 1e6) / 1e6)).toBe(true)
            expect(errors[i]).toBeCloseTo(Math.abs(length / (count * frames) - 1), 9)
          }
      }),
    )
  })
  it('ends where nothing is bent any more', () => {
    const front = fitFront(
      [
        { frames: 20, fold: 1 },
        { frames: 30, fold: 1 },
      ],
      600,
    )
    expect(front.at(-1)).toMatchObject({ length: 60, cycles: [3, 2], worstError: 0 })
  })
  it('needs only the part of a turn that an eight-fold wheel needs', () =>
    expect(fitFront([{ frames: 96, fold: 8 }], 600).at(-1)).toMatchObject({ length: 12, cycles: [1 / 8] }))
})

describe('divisors', () => {
  it('are the numbers that divide', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 3000 }), (n) => {
        expect(divisors(n)).toEqual(Array.from({ length: n }, (_, i) => i + 1).filter((d) => n % d === 0))
      }),
    )
  })
})

describe('filling a duration', () => {
  it('gives whole repeats below and above it, and exact lengths that divide it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 400 }), fc.integer({ min: 1, max: 1200 }), (length, tenths) => {
        const duration = fraction(tenths, 10)
        const fill = fillDuration(duration, length, fraction(24), 36_000)
        const wanted = toNumber(duration)
        const { below, above } = fill
        if (below) expect(toNumber(below.seconds)).toBeLessThanOrEqual(wanted + 1e-9)
        if (above) expect(toNumber(above.seconds)).toBeGreaterThan(wanted)
        if (below && above) expect(above.repeats).toBe(below.repeats + 1)
        for (const each of fill.exact) {
          expect((each.length * each.repeats) / 24).toBeCloseTo(wanted, 9)
          expect(each.speed).toBeCloseTo(length / each.length, 9)
        }
      }),
    )
  })
  it('makes 48 repeats of five frames of ten seconds', () => {
    const { below, above } = fillDuration(fraction(10), 5, fraction(24), 36_000)
    expect(below).toEqual({ repeats: 48, seconds: fraction(10) })
    expect(above).toBeNull()
  })
  it('refuses no time at all', () => expect(() => fillDuration(fraction(0), 5, fraction(24), 100)).toThrow(RangeError))
})

describe('strobing', () => {
  it('is what is left of the step when the eye cannot tell one spoke from the next', () => {
    expect(strobing(10, 45).looks).toBe('smooth')
    expect(strobing(20, 45).looks).toBe('flickering')
    expect(strobing(45, 45)).toMatchObject({ looks: 'still', seen: 0 })
    expect(strobing(40, 45)).toMatchObject({ looks: 'backwards', seen: -5 })
    expect(strobing(-40, 45)).toMatchObject({ looks: 'backwards', seen: 5 })
    expect(strobing(50, 45)).toMatchObject({ looks: 'slow', seen: 5 })
  })
  it('is avoided by the settings that it names', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 2, max: 200 }),
        fc.integer({ min: 1, max: 12 }),
        (cycles, length, fold) => {
          const m = 360 / fold
          const at = (c: number, n: number) => strobing((c * 360) / n, m)
          const now = at(cycles, length)
          expect(now.seen).toBeCloseTo(reduceGap((cycles * 360) / length, m), 9)
          const settings = safeSettings(now, cycles, length)
          if (settings.cycles) expect(at(settings.cycles, length).looks).toBe('smooth')
          expect(at(cycles, settings.length).looks).toBe('smooth')
        },
      ),
    )
  })
})
