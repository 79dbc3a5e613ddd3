import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, dueFrame, frameMs, framesDue, keepsPace, PaceMeter, playedFrames } from '.'

describe('playing', () => {
  it('shows each frame for its own time, at any rate of the screen', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...COMMON_RATES),
        fc.constantFrom(1, 0.5, 0.25),
        fc.integer({ min: 1, max: 200 }),
        fc.nat(400),
        fc.nat(199),
        (rate, pace, length, n, from) => {
          const order = playedFrames(length, false)
          const playback = { order, first: from % length, rate, pace, startedAt: 5000 }
          const start = 5000 + n * frameMs(playback)
          for (const within of [0.001, 0.5, 0.999]) {
            const at = start + within * frameMs(playback)
            expect(framesDue(playback, at)).toBe(n)
            expect(dueFrame(playback, at)).toBe((from + n) % length)
          }
        },
      ),
    )
  })
  it('shows its first frame until it has begun', () => {
    const playback = { order: [4, 5, 0, 1], first: 1, rate: { num: 25, den: 1 }, pace: 1, startedAt: 100 }
    expect([0, 99, 100, 139, 140, 180].map((at) => dueFrame(playback, at))).toEqual([5, 5, 5, 5, 0, 1])
  })
  it('plays all frames, or only those around the seam, the seam in the middle', () => {
    expect(playedFrames(5, false)).toEqual([0, 1, 2, 3, 4])
    expect(playedFrames(48, true)).toEqual([42, 43, 44, 45, 46, 47, 0, 1, 2, 3, 4, 5])
    expect(playedFrames(6, true)).toEqual([0, 1, 2, 3, 4, 5])
  })
  it('measures what was shown', () => {
    const meter = new PaceMeter(0)
    for (let t = 0; t <= 2000; t += 40) {
      meter.shown(t)
      if (t < 500) expect(meter.rate(t)).toBeNull()
      if (t > 1000) expect(meter.rate(t)).toBeCloseTo(25, 0)
    }
    expect(keepsPace(24.2, 25)).toBe(true)
    expect(keepsPace(21, 25)).toBe(false)
  })
})
