import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineThrough } from './statistics'

describe('the straight line through a series', () => {
  it('is found exactly where there is one', () => {
    const number = fc.double({ min: -50, max: 50, noNaN: true })
    fc.assert(
      fc.property(number, number, fc.integer({ min: 2, max: 60 }), (from, slope, n) => {
        const found = lineThrough(Array.from({ length: n }, (_, i) => from + slope * i))
        expect(found.slope).toBeCloseTo(slope, 6)
        expect(found.mean).toBeCloseTo(from + (slope * (n - 1)) / 2, 6)
        expect(found.left).toBeLessThan(1e-6)
      }),
    )
  })
  it('leaves what lies beside it, and is level through one value', () => {
    expect(lineThrough([1, -1, -1, 1])).toEqual({ mean: 0, slope: 0, left: 1 })
    expect(lineThrough([3])).toEqual({ mean: 3, slope: 0, left: 0 })
  })
})
