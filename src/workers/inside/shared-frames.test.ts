import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { SharedFrames } from './shared-frames'

const grey = (frame: number): Picture => ({ width: 1, height: 1, data: Uint8ClampedArray.of(frame, frame, frame, 255) })
const turns = async (count: number) => {
  for (let i = 0; i < count; i++) await Promise.resolve()
}

/** Takers of other speeds who take all frames twice: once to write, once to read back. */
async function takeAll(shared: SharedFrames, count: number, speeds: readonly number[]) {
  await Promise.all(
    speeds.map(async (speed) => {
      const taker = shared.join()
      for (let n = 0; n < 2 * count; n++) {
        const { data } = await shared.take(taker, n % count, n / count)
        expect(data[0]).toBe(n % count)
        await turns(speed)
      }
      shared.leave(taker)
    }),
  )
  return shared.drawn
}

describe('frames that several files are written from', () => {
  it('are drawn once where all of them fit', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.nat(9), { minLength: 1, maxLength: 5 }), async (speeds) => {
        expect(await takeAll(new SharedFrames(async (n) => grey(n), 20, 20), 20, speeds)).toBe(20)
      }),
    )
  })
  it('are drawn once to be written and once to be read back where they do not, and never kept beyond that', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(fc.nat(9), { minLength: 1, maxLength: 5 }), async (speeds) => {
        expect(await takeAll(new SharedFrames(async (n) => grey(n), 8, 60), 60, speeds)).toBeLessThanOrEqual(120)
      }),
    )
  })
  it('go on for the others when one stops', async () => {
    const shared = new SharedFrames(async (n) => grey(n), 2, 50)
    const stopped = shared.join()
    const all = takeAll(shared, 50, [0, 3])
    await turns(200)
    expect(shared.drawn).toBeLessThan(10)
    shared.leave(stopped)
    expect(await all).toBeLessThanOrEqual(100)
  })
  it('come out of turn without waiting, and fail where they are asked for', async () => {
    const shared = new SharedFrames(
      async (n) => {
        if (n === 7) throw new Error('frame 7 cannot be drawn')
        return grey(n)
      },
      2,
      50,
    )
    const fast = shared.join()
    const slow = shared.join()
    expect((await shared.take(fast, 40, null)).data[0]).toBe(40)
    await expect(shared.take(slow, 7, 0)).rejects.toThrow('frame 7')
    await expect(shared.take(slow, 7, 0)).rejects.toThrow('frame 7')
  })
})
