import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction } from '@/core/clock'
import { newLoop } from '@/core/edit'
import type { Picture } from '@/core/image'
import { PLAIN_SETTINGS, timingIn } from '@/core/output'
import { FrameFeed } from './frame-feed'

type Lane = ConstructorParameters<typeof FrameFeed>[0]
const size = { width: 1, height: 1 }
const grey = (frame: number): Picture => ({ ...size, data: Uint8ClampedArray.of(frame, frame, frame, 255) })
const loopOf = (length: number) =>
  newLoop({ name: 'Buoy', kind: 'loader', ...size, background: null, rate: fraction(25), length }, 'buoy')

/** A feed of a file with the given number of frames, and its requests to the drawing worker. */
function feedOf(length: number, repeats: number) {
  const asked: { frame: number; at: number | null }[] = []
  const seen: number[] = []
  const lane = {
    take: async (frame: number, at: number | null) => {
      asked.push({ frame, at })
      return grey(frame)
    },
    other: async (_: unknown, frame: number) => grey(frame),
    videoFrame: async (frame: number) => {
      seen.push(frame)
      return { frame } as unknown as VideoFrame
    },
  }
  const loop = loopOf(length)
  const timing = timingIn(loop, { ...PLAIN_SETTINGS, format: 'apng', repeats })
  return { feed: new FrameFeed(lane as unknown as Lane, loop, timing, size), timing, asked, seen }
}

const files = fc.tuple(fc.integer({ min: 1, max: 20 }), fc.integer({ min: 1, max: 3 }))

describe('the frames of a file', () => {
  it('are those of its timing, the next one asked for while one is taken, and each at its turn', async () => {
    await fc.assert(
      fc.asyncProperty(files, async ([length, repeats]) => {
        const { feed, timing, asked } = feedOf(length, repeats)
        const count = timing.frames.length
        for (let n = 0; n < count; n++) {
          expect((await feed.draw(n)).data[0]).toBe(timing.frames[n])
          expect(asked.length).toBe(Math.min(count, n + 2))
        }
        expect(asked.map(({ at }) => at)).toEqual(Array.from({ length: count }, (_, n) => n / count))
      }),
    )
  })
  it('come once for an encoder of video, none too many', async () => {
    await fc.assert(
      fc.asyncProperty(files, async ([length, repeats]) => {
        const { feed, timing, seen } = feedOf(length, repeats)
        for (const [n, frame] of timing.frames.entries()) expect(await feed.videoFrame(n)).toEqual({ frame })
        expect(seen).toEqual(timing.frames)
      }),
    )
  })
})
