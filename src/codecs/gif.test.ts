import fc from 'fast-check'
import { GifReader } from 'omggif'
import { describe, expect, it } from 'vitest'
import { COMMON_RATES, gifTiming } from '@/core/clock'
import { DITHERINGS, type Picture } from '@/core/image'
import { decodeGif, type GifColours, GifError, GifFrames, PLAIN_COLOURS, writeGif } from '.'

const encode = async (frames: readonly Picture[], delaysCs: readonly number[], colours: GifColours) => {
  const [{ width, height }] = frames as [Picture]
  const draw = async (n: number) => frames[n] as Picture
  const { bytes } = await writeGif({ width, height, delaysCs, colours, draw, mostKept: 2, progress: () => {} })
  return bytes
}

/** Frames of up to six flat colours, well apart, some of them transparent. */
const FLAT = [
  [246, 184, 75],
  [10, 34, 49],
  [247, 234, 208],
  [239, 127, 95],
  [121, 201, 180],
] as const
const picture = (width: number, height: number, cells: readonly number[]): Picture => ({
  width,
  height,
  data: Uint8ClampedArray.from(
    Array.from({ length: width * height }, (_, i) => {
      const colour = FLAT[(cells[i % cells.length] as number) % (FLAT.length + 1)]
      return colour ? [...colour, 255] : [0, 0, 0, 0]
    }).flat(),
  ),
})
const anyFrames = fc
  .record({
    width: fc.integer({ min: 1, max: 24 }),
    height: fc.integer({ min: 1, max: 24 }),
    frames: fc.array(fc.array(fc.nat(5), { minLength: 1, maxLength: 40 }), { minLength: 1, maxLength: 6 }),
  })
  .map(({ width, height, frames }) => frames.map((cells) => picture(width, height, cells)))

const visible = ({ data }: Picture) =>
  Array.from({ length: data.length / 4 }, (_, i) =>
    (data[4 * i + 3] as number) < 128 ? 'clear' : [...data.slice(4 * i, 4 * i + 3)].map((c) => c >> 3).join(),
  )

const good = await encode([picture(8, 8, [1, 2]), picture(8, 8, [2, 3])], [4, 4], { ...PLAIN_COLOURS, colours: 8 })

describe('GIF', () => {
  it('gives back the frames and delays that went in', async () => {
    await fc.assert(
      fc.asyncProperty(anyFrames, fc.integer({ min: 2, max: 500 }), async (frames, delay) => {
        const delays = frames.map((_, n) => delay + n)
        const file = decodeGif(await encode(frames, delays, { ...PLAIN_COLOURS, colours: 16, transparent: true }))
        expect(file).toMatchObject({ delaysCs: delays, playsForever: true, width: frames[0]?.width })
        expect([...file.frames()].map(visible)).toEqual(frames.map(visible))
      }),
    )
  })
  it('gives back opaque frames, of which only what changed is stored', async () => {
    await fc.assert(
      fc.asyncProperty(anyFrames, async (frames) => {
        for (const { data } of frames) for (let i = 3; i < data.length; i += 4) data[i] = 255
        const bytes = await encode(
          frames,
          frames.map(() => 4),
          { ...PLAIN_COLOURS, colours: 16, transparent: false },
        )
        expect([...decodeGif(bytes).frames()].map(visible)).toEqual(frames.map(visible))
      }),
    )
  })
  it('reads the same to another decoder', async () => {
    const frames = [0, 1, 2].map((n) => picture(16, 9, [n, 1, 2, 3]))
    const bytes = await encode(frames, [4, 3, 4], { ...PLAIN_COLOURS, colours: 8, transparent: false })
    const other = new GifReader(bytes)
    expect([0, 1, 2].map((n) => other.frameInfo(n).delay)).toEqual([4, 3, 4])
    expect(other.loopCount()).toBe(0)
    const pixels = new Uint8ClampedArray(16 * 9 * 4)
    for (const [n, frame] of [...decodeGif(bytes).frames()].entries()) {
      other.decodeAndBlitFrameRGBA(n, pixels as unknown as number[])
      expect(frame.data).toEqual(pixels)
    }
  })
  it('keeps every delay of every rate', async () => {
    await fc.assert(
      fc.asyncProperty(fc.constantFrom(...COMMON_RATES), fc.integer({ min: 2, max: 60 }), async (rate, length) => {
        const { delaysCs } = gifTiming(length, rate)
        const frames = delaysCs.map((_, n) => picture(2, 2, [n % 5]))
        const file = decodeGif(await encode(frames, delaysCs, { ...PLAIN_COLOURS, colours: 8, transparent: false }))
        expect(file.delaysCs).toEqual(delaysCs)
      }),
    )
  })
  it('never writes a delay that viewers would replace', async () => {
    const colours: GifColours = { ...PLAIN_COLOURS, colours: 4, transparent: false }
    await expect(encode([picture(2, 2, [1])], [1], colours)).rejects.toThrow('no delay that viewers honour')
    const writer = new GifFrames(
      2,
      2,
      [
        [0, 0, 0],
        [1, 1, 1],
      ],
      colours,
    )
    expect(() => writer.take(picture(3, 2, [1]), 4, { indices: new Uint8Array(6), own: null })).toThrow(
      '3×2 px does not fit',
    )
  })

  const ramp: Picture = {
    width: 64,
    height: 64,
    data: Uint8ClampedArray.from({ length: 64 * 64 * 4 }, (_, i) => (i % 4 === 3 ? 255 : ((i >> 2) % 64) * 4)),
  }
  const columnMeans = ({ width, height, data }: Picture) =>
    Array.from({ length: width / 8 }, (_, column) => {
      let sum = 0
      for (let y = 0; y < height; y++)
        for (let x = 8 * column; x < 8 * column + 8; x++) sum += data[(y * width + x) * 4] as number
      return sum / (8 * height)
    })
  it.each(DITHERINGS.filter((d) => d !== 'none'))(
    '%s dithering keeps mean tones better than none',
    async (dithering) => {
      const error = async (chosen: GifColours['dithering']) => {
        const [shown] = decodeGif(
          await encode([ramp], [4], { ...PLAIN_COLOURS, colours: 5, dithering: chosen, transparent: false }),
        ).frames()
        const wanted = columnMeans(ramp)
        const off = columnMeans(shown as Picture).map((mean, i) => Math.abs(mean - (wanted[i] as number)))
        return Math.max(...off.slice(2, -2))
      }
      expect(await error(dithering)).toBeLessThan(0.7 * (await error('none')))
    },
  )

  it.each<[string, Uint8Array]>([
    ['nothing at all', new Uint8Array()],
    ['another kind of file', new TextEncoder().encode('<svg xmlns="http://www.w3.org/2000/svg"/>')],
    ['a header alone', good.slice(0, 13)],
    ['a file that breaks off', good.slice(0, good.length - 40)],
    ['a picture of no size', Uint8Array.from([...good.slice(0, 6), 0, 0, 0, 0, ...good.slice(10)])],
    [
      'a claim of 30,000 × 30,000 px',
      Uint8Array.from([...good.slice(0, 6), 0x30, 0x75, 0x30, 0x75, ...good.slice(10)]),
    ],
  ])('says what is wrong with %s', (_, bytes) => {
    const read = () => [...decodeGif(bytes).frames()]
    expect(read).toThrow(GifError)
  })
  it('never does worse than an error on damaged headers, tables and extensions', () => {
    fc.assert(
      fc.property(fc.nat(good.indexOf(0x2c)), fc.nat(255), (at, byte) => {
        const damaged = good.slice()
        damaged[at] = byte
        try {
          for (const frame of decodeGif(damaged).frames())
            expect(frame.data.length).toBe(frame.width * frame.height * 4)
        } catch (error) {
          expect(error).toBeInstanceOf(GifError)
        }
      }),
      { numRuns: 300 },
    )
  })
})
