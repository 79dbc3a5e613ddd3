import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cachedSize, FrameCache } from './frame-cache'

const CEILING = 384 * 1024 * 1024

const picture = (closed: number[], frame: number) => ({ close: () => void closed.push(frame) })

describe('the cache of drawn frames', () => {
  it('fills from the playhead on, never beyond its room, and loses no picture', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 2, max: 60 }),
        fc.array(fc.nat(59), { minLength: 1, maxLength: 4 }),
        (length, capacity, playheads) => {
          const cache = new FrameCache<{ close(): void }>()
          const closed: number[] = []
          let made = 0
          cache.reset(length, capacity)
          for (const each of playheads) {
            const playhead = each % length
            for (let next = cache.nextMissing(playhead); next !== null; next = cache.nextMissing(playhead)) {
              cache.put(next, picture(closed, next), playhead)
              made++
            }
            const room = Math.min(length, capacity)
            const kept = cache.flags().reduce((a, b) => a + b, 0)
            expect(kept).toBe(room)
            expect(made - closed.length).toBe(room)
            for (let i = 0; i < room; i++) expect(cache.get((playhead + i) % length)).toBeDefined()
          }
          cache.reset(3, 2)
          expect(cache.flags()).toEqual(Uint8Array.of(0, 0, 0))
          while (cache.closeSome(4));
          expect(closed).toHaveLength(made)
        },
      ),
    )
  })
  it('draws at the size that is shown, smaller where all frames would not fit, but not under half', () => {
    expect(cachedSize({ width: 480, height: 480, length: 60 }, 320, CEILING)).toMatchObject({ width: 320, height: 320 })
    expect(cachedSize({ width: 480, height: 480, length: 60 }, 960, CEILING)).toMatchObject({ width: 480 })
    const long = cachedSize({ width: 1920, height: 1080, length: 90 }, 1920, CEILING)
    expect(long.width).toBeLessThan(1920)
    expect(long.capacity).toBeGreaterThanOrEqual(89)
    const huge = cachedSize({ width: 4096, height: 4096, length: 900 }, 4096, CEILING)
    expect(huge.width).toBe(2048)
    expect(huge.capacity * huge.width * huge.height * 4).toBeLessThanOrEqual(CEILING)
  })
})
