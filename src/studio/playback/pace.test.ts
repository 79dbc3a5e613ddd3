import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, toNumber } from '@/core/clock'
import { dueIndex, keepsPace, PaceMeter, playedFrames } from './pace'

describe('playing', () => {
  it('shows each frame for its own time, at any rate of the screen', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...COMMON_RATES),
        fc.constantFrom(1, 0.5, 0.25),
        fc.integer({ min: 1, max: 200 }),
        fc.nat(400),
        (rate, pace, count, n) => {
          const start = (1000 * n) / (toNumber(rate) * pace)
          const lasts = 1000 / (toNumber(rate) * pace)
          for (const within of [0.001, 0.5, 0.999])
            expect(dueIndex(start + within * lasts, rate, pace, 0, count)).toBe(n % count)
        },
      ),
    )
  })
  it('plays all frames, or only those around the seam, the seam in the middle', () => {
    expect(playedFrames(5, false)).toEqual([0, 1, 2, 3, 4])
    expect(playedFrames(48, true)).toEqual([42, 43, 44, 45, 46, 47, 0, 1, 2, 3, 4, 5])
    expect(playedFrames(6, true)).toEqual([0, 1, 2, 3, 4, 5])
  })
  it('measures what was shown', () => {
    const meter = new PaceMeter()
    meter.start(0)
    for (let t = 0; t <= 2000; t += 40) {
      meter.shown(t)
      if (t < 500) expect(meter.rate(t)).toBeNull()
      if (t > 1000) expect(meter.rate(t)).toBeCloseTo(25, 0)
    }
    expect(keepsPace(24.2, 25)).toBe(true)
    expect(keepsPace(21, 25)).toBe(false)
  })
})
