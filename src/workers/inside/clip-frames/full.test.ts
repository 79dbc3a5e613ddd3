import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ClipShape, type Mend, mendedPlan, mixFrame } from '@/core/footage'
import type { Picture } from '@/core/image'
import { FullFrames } from './full'
import { numbersOf, type OpenedClip } from './reader'

const N = 30
/** Large enough that sixteen of them are at the ceiling. */
const width = 1024
const height = 1024
const source = (n: number): Picture => ({ width, height, data: new Uint8ClampedArray([n, 2 * n, 3 * n, 255]) })
const shape: ClipShape = {
  delaysMs: new Array<number>(N).fill(40),
  playsForever: true,
  means: new Array<[number, number, number]>(N).fill([0.2, 0.2, 0.2]),
}

/** A clip that counts what is read of it. */
function counting() {
  const asked: number[][] = []
  const opened: OpenedClip = {
    format: 'WebM',
    width,
    height,
    count: N,
    plays: 0,
    notes: [],
    async *frames(_width, _height, wanted) {
      asked.push([...numbersOf(N, wanted)])
      for (const n of numbersOf(N, wanted)) yield { n, picture: { ...source(n) }, delayMs: 40 }
    },
  }
  return { opened, asked }
}
/** A picture is compared by its first pixel, which is all that these have. */
const firstPixel = ({ data }: Picture) => [...data.subarray(0, 4)]

describe('frames at full size', () => {
  const mend = fc.constantFrom<Mend>(
    { kind: 'drop', frames: [3, 9] },
    { kind: 'crop', from: 4, to: 22 },
    { kind: 'there-and-back' },
    { kind: 'overlap', frames: 5, keepVariance: false },
  )
  const one = (n: number): Picture => ({ width: 1, height: 1, data: source(n).data })
  const small = (opened: OpenedClip): OpenedClip => ({
    ...opened,
    async *frames(w, h, wanted) {
      for await (const each of opened.frames(w, h, wanted)) yield { ...each, picture: one(each.n) }
    },
  })

  it('are what the plan says, in whatever order they are asked for, all at once or one by one', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(mend, { maxLength: 3 }),
        fc.array(fc.nat(60), { minLength: 1, maxLength: 20 }),
        fc.boolean(),
        async (mends, wanted, together) => {
          const plan = mendedPlan(shape, mends)
          const { opened, asked } = counting()
          const frames = new FullFrames(small(opened), plan)
          const numbers = wanted.map((n) => n % plan.frames.length)
          const read: Picture[] = []
          if (together) read.push(...(await Promise.all(numbers.map((n) => frames.at(n)))))
          else for (const n of numbers) read.push(await frames.at(n))
          for (const [i, n] of numbers.entries())
            expect(firstPixel(read[i] as Picture)).toEqual(
              firstPixel(mixFrame(plan.frames[n] as (typeof plan.frames)[number], one)),
            )
          for (const each of asked) expect(each).toEqual([...each].sort((a, b) => a - b))
        },
      ),
      { numRuns: 60 },
    )
  })
  it('are read once each where they are asked for in their order, a ceiling’s worth at a time', async () => {
    const { opened, asked } = counting()
    const frames = new FullFrames(opened, mendedPlan(shape, []))
    for (let n = 0; n < N; n++) expect(firstPixel(await frames.at(n))).toEqual(firstPixel(source(n)))
    expect(asked.flat()).toEqual(Array.from({ length: N }, (_, n) => n))
    expect(Math.max(...asked.map((each) => each.length))).toBe(16)
  })
  it('say what is wrong to the one who asks, and serve the next', async () => {
    const { opened } = counting()
    let broken = true
    const frames = new FullFrames(
      {
        ...opened,
        async *frames(w, h, wanted) {
          if (broken) throw new Error('It breaks off.')
          yield* opened.frames(w, h, wanted)
        },
      },
      mendedPlan(shape, []),
    )
    await expect(frames.at(2)).rejects.toThrow('It breaks off.')
    broken = false
    expect(firstPixel(await frames.at(2))).toEqual(firstPixel(source(2)))
  })
})
