import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coarseScale, ownCost } from './coarse'

describe('a frame that is being changed', () => {
  it('is drawn at its own size where that is quick, and no coarser than a quarter', () => {
    expect([0, 16, 30, 31, 120, 121, 5000].map(coarseScale)).toEqual([1, 1, 1, 0.5, 0.5, 0.25, 0.25])
    expect(coarseScale(Number.NaN)).toBe(1)
  })
  it('is drawn within four times less the area, or in time, and stays so once it has been drawn coarse', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 2000, noNaN: true }), (ms) => {
        const scale = coarseScale(ms)
        const taken = ms * scale * scale
        expect(taken <= 30 || scale === 0.25).toBe(true)
        // The full cost is estimated from a coarse drawing, too, so that the scale does not alternate.
        expect(coarseScale(ownCost(taken, scale))).toBe(scale)
      }),
    )
  })
})
