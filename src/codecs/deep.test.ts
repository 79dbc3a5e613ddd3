import fc from 'fast-check'
import { PNG } from 'pngjs'
import { describe, expect, it } from 'vitest'
import { type DeepPicture, rangeOf, shallow, sixteenBits } from '@/core/image'
import { exrOf, exrRead, pngOf16Bits, samplesOf16Bits } from './deep'

const pictures = (value: fc.Arbitrary<number>): fc.Arbitrary<DeepPicture> =>
  fc
    .record({ width: fc.integer({ min: 1, max: 19 }), height: fc.integer({ min: 1, max: 40 }) })
    .chain(({ width, height }) =>
      fc
        .array(value, { minLength: 4 * width * height, maxLength: 4 * width * height })
        .map((data) => ({ width, height, data: Float32Array.from(data) })),
    )

describe('a picture of numbers', () => {
  it('is the same 16 bits after it was written as PNG, and its upper half for a decoder of 8', async () => {
    await fc.assert(
      fc.asyncProperty(pictures(fc.float({ min: 0, max: 1, noNaN: true })), async (picture) => {
        const png = await pngOf16Bits(picture)
        const samples = sixteenBits(picture)
        expect(await samplesOf16Bits(png)).toEqual(samples)
        const plain = PNG.sync.read(Buffer.from(png))
        expect([plain.width, plain.height]).toEqual([picture.width, picture.height])
        for (const [i, byte] of plain.data.entries())
          expect(Math.abs(byte - (samples[i] as number) / 257)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 40 },
    )
  })
  it('is the same numbers after it was written as EXR', async () => {
    await fc.assert(
      fc.asyncProperty(pictures(fc.float({ noNaN: true, noDefaultInfinity: true })), async (picture) => {
        const read = await exrRead(await exrOf(picture))
        expect([read.width, read.height]).toEqual([picture.width, picture.height])
        // Zeros are not told apart by their signs.
        expect([...read.data].map((x) => x + 0)).toEqual([...picture.data].map((x) => x + 0))
      }),
      { numRuns: 40 },
    )
  })
  it('has the range of what is drawn of it', () => {
    const picture = { width: 2, height: 1, data: Float32Array.from([3, 4, 5, 1, 900, 900, 900, 0]) }
    expect(rangeOf(picture)).toEqual([3, 5])
    expect([...shallow(picture, [3, 5]).data]).toEqual([0, 128, 255, 255, 255, 255, 255, 0])
  })
})
