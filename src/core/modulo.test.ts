import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fractionalPart, modulo } from './modulo'

describe('what is left of a number', () => {
  it('beside whole multiples of another lies between 0 and that one, and is the same after each of them', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 1, max: 5000 }), (x, n) => {
        expect(modulo(x, n)).toBeGreaterThanOrEqual(0)
        expect(modulo(x, n)).toBeLessThan(n)
        expect(modulo(x + n, n)).toBe(modulo(x, n))
        expect(Number.isInteger((x - modulo(x, n)) / n)).toBe(true)
      }),
    )
  })
  it('above the whole one below it lies between 0 and 1, also below 0', () => {
    expect([-1.25, -1, 0, 0.25, 7.5].map(fractionalPart)).toEqual([0.75, 0, 0, 0.25, 0.5])
  })
})
