import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { frameDue, seamOrder } from './playing'

describe('playing a clip', () => {
  it('goes across the seam', () => {
    expect(seamOrder(24)).toEqual([18, 19, 20, 21, 22, 23, 0, 1, 2, 3, 4, 5])
    expect(seamOrder(5)).toEqual([3, 4, 0, 1])
    expect(seamOrder(2)).toEqual([1, 0])
  })
  it('shows each frame for its own delay, again and again', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(200), { minLength: 1, maxLength: 12 }),
        fc.nat(5),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (delays, rounds, share) => {
          const total = delays.reduce((a, b) => a + b, 0)
          fc.pre(total > 0)
          for (const [k, delay] of delays.entries()) {
            if (delay === 0) continue
            const before = delays.slice(0, k).reduce((a, b) => a + b, 0)
            expect(frameDue(delays, rounds * total + before + share * delay)).toBe(k)
          }
        },
      ),
    )
    expect(frameDue([0, 0], 50)).toBe(0)
  })
})
