import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  difference,
  greatestDifference,
  type Palette,
  type Picture,
  paletteMapper,
  pixelError,
  reducePicture,
  type WantedAlpha,
  wordsOf,
} from '.'

const picture = (width: number, height: number, pixel: (x: number, y: number) => readonly number[]): Picture => ({
  width,
  height,
  data: Uint8ClampedArray.from(
    Array.from({ length: width * height }, (_, i) => pixel(i % width, Math.floor(i / width))).flat(),
  ),
})
const anyPicture = fc
  .tuple(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }))
  .chain(([width, height]) =>
    fc
      .uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 })
      .map((data): Picture => ({ width, height, data: new Uint8ClampedArray(data) })),
  )

describe('what differs between two pictures', () => {
  it('is nothing for a picture and itself, and the same both ways', () => {
    fc.assert(
      fc.property(anyPicture, (a) => {
        expect(greatestDifference(a, a)).toBe(0)
        const b = { ...a, data: a.data.map((value, i) => (i % 4 === 3 ? value : 255 - value)) }
        expect(difference(a, b, 3).data).toEqual(difference(b, a, 3).data)
      }),
    )
  })
  it('is amplified by the gain, alpha counting as light', () => {
    const plain = picture(1, 1, () => [100, 100, 100, 255])
    const lighter = picture(1, 1, () => [104, 100, 90, 255])
    const clear = picture(1, 1, () => [0, 0, 0, 0])
    expect([...difference(plain, lighter, 5).data]).toEqual([20, 0, 50, 255])
    expect([...difference(plain, clear, 1).data]).toEqual([255, 255, 255, 255])
  })
  it('is painted as heat by how much differs, and signed by which is lighter', () => {
    const plain = picture(1, 1, () => [100, 100, 100, 255])
    const other = picture(1, 1, () => [104, 90, 100, 255])
    const painted = (kind: 'heat' | 'signed', gain: number, a = plain, b = other) => [
      ...difference(a, b, gain, kind).data,
    ]
    expect(painted('heat', 1)).toEqual([30, 0, 0, 255])
    expect(painted('heat', 10)).toEqual([255, 45, 0, 255])
    expect(painted('heat', 100)).toEqual([255, 255, 255, 255])
    expect(painted('signed', 2)).toEqual([136, 108, 128, 255])
    expect(painted('signed', 2, other, plain)).toEqual([120, 148, 128, 255])
    fc.assert(
      fc.property(anyPicture, (a) => {
        for (let i = 0; i < a.data.length; i += 4)
          expect([...difference(a, a, 9, 'signed').data.subarray(i, i + 4)]).toEqual([128, 128, 128, 255])
      }),
    )
  })
  it('is refused for pictures of two sizes', () => {
    const small = picture(2, 2, () => [0, 0, 0, 255])
    const large = picture(3, 2, () => [0, 0, 0, 255])
    expect(() => difference(small, large, 1)).toThrow('2×2 and 3×2 px')
  })
})

const GREYS: Palette = [[0, 0, 0], ...[0, 64, 128, 192, 255].map((v) => [v, v, v])]

describe('colours of a palette', () => {
  it.each(['none', 'diffusion'] as const)('are found again as they are, with dithering %s', (dithering) => {
    const exact = picture(5, 4, (x) => [...GREYS[x + 1], 255])
    const indices = paletteMapper(GREYS, dithering, false)(exact)
    expect([...indices]).toEqual(Array.from({ length: 20 }, (_, i) => (i % 5) + 1))
  })
  it('are the nearest ones where nothing is dithered', () => {
    fc.assert(
      fc.property(fc.nat(255), (v) => {
        const [index] = paletteMapper(GREYS, 'none', false)(picture(1, 1, () => [v, v, v, 255]))
        const off = (i: number) => Math.abs(GREYS[i][0] - v)
        // Colours are looked up by six bits a channel.
        for (let i = 1; i < GREYS.length; i++) expect(off(index as number)).toBeLessThanOrEqual(off(i) + 6)
      }),
    )
  })
  it('leave under half opacity clear, where that is asked for', () => {
    const half = picture(2, 1, (x) => [255, 255, 255, x === 0 ? 127 : 128])
    expect([...paletteMapper(GREYS, 'none', true)(half)]).toEqual([0, 5])
    expect([...paletteMapper(GREYS, 'none', false)(half)]).toEqual([5, 5])
  })
  it('stay still in a still region when they are dithered in order, whatever changes beside it', () => {
    const map = paletteMapper(GREYS, 'ordered', false)
    const frame = (n: number) => picture(32, 16, (x, y) => [x < 16 ? 90 + y : (37 * n + 11 * x) % 256, 90, 90, 255])
    const first = map(frame(0))
    const second = map(frame(1))
    for (let i = 0; i < first.length; i++) if (i % 32 < 16) expect(second[i]).toBe(first[i])
    expect(second).not.toEqual(first)
  })
  it.each(['ordered', 'diffusion'] as const)('keep the mean of a tone between two, with dithering %s', (dithering) => {
    fc.assert(
      fc.property(fc.integer({ min: 70, max: 185 }), (v) => {
        const indices = paletteMapper(GREYS, dithering, false)(picture(64, 64, () => [v, v, v, 255]))
        const mean = indices.reduce((sum, i) => sum + GREYS[i][0], 0) / indices.length
        expect(Math.abs(mean - v)).toBeLessThan(dithering === 'ordered' ? 20 : 4)
      }),
      { numRuns: 30 },
    )
  })
})

describe('how far a picture is from another', () => {
  const bytes = fc.constantFrom(0, 1, 127, 128, 200, 254, 255)
  const pixels = fc.array(fc.tuple(bytes, bytes, bytes, bytes), { minLength: 12, maxLength: 12 })
  const of = (all: readonly (readonly number[])[]): Picture => picture(4, 3, (x, y) => all[4 * y + x])
  const wanted = fc.constantFrom<WantedAlpha>('opaque', 'drawn or not', 'own')

  it('is the mean and the greatest difference over what is drawn, pixel by pixel', () => {
    fc.assert(
      fc.property(
        pixels,
        pixels,
        fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }),
        wanted,
        (a, b, same, kind) => {
          const found = a.map((each, i) => (same[i] ? (b[i] as readonly number[]) : each))
          const drawn = b.filter(([, , , alpha]) => kind === 'opaque' || (alpha as number) >= 128)
          const colours = b.flatMap((pixel, i) =>
            drawn.includes(pixel) ? [0, 1, 2].map((c) => Math.abs((pixel[c] as number) - found[i]?.[c])) : [],
          )
          const alphas = b.map(([, , , alpha], i) => {
            const should = { opaque: 255, 'drawn or not': alpha < 128 ? 0 : 255, own: alpha }[kind]
            return Math.abs(should - found[i]?.[3])
          })
          const sum = (of: readonly number[]) => of.reduce((total, each) => total + each, 0)
          const error = pixelError(of(found), of(b), kind)
          expect(error.worst).toBe(Math.max(0, ...colours))
          expect(error.mean).toBeCloseTo(colours.length > 0 ? sum(colours) / colours.length : 0, 9)
          expect(error.worstAlpha).toBe(Math.max(...alphas))
          expect(error.alpha).toBeCloseTo(sum(alphas) / 12, 9)
        },
      ),
    )
  })
})

describe('the words of a picture', () => {
  it('are its bytes, red the least, wherever its memory begins', () => {
    fc.assert(
      fc.property(anyPicture, fc.nat(7), (plain, offset) => {
        const memory = new Uint8ClampedArray(offset + plain.data.length)
        memory.set(plain.data, offset)
        const words = wordsOf({ ...plain, data: memory.subarray(offset) })
        expect([...words].flatMap((word) => [0, 8, 16, 24].map((shift) => (word >>> shift) & 255))).toEqual([
          ...plain.data,
        ])
      }),
    )
  })
})

describe('a reduced picture', () => {
  it('is the mean of its cells, what is clear having no colour', () => {
    fc.assert(
      fc.property(anyPicture, fc.integer({ min: 1, max: 4 }), (large, longest) => {
        const { width, height, data } = reducePicture(large, longest)
        if (Math.max(large.width, large.height) <= longest) {
          expect({ width, height, data }).toEqual(large)
          return
        }
        expect(Math.max(width, height)).toBe(longest)
        for (let y = 0; y < height; y++)
          for (let x = 0; x < width; x++) {
            const edge = (i: number, of: number, cells: number) => Math.round((i * of) / cells)
            const sums = [0, 0, 0, 0]
            let count = 0
            for (let sy = edge(y, large.height, height); sy < edge(y + 1, large.height, height); sy++)
              for (let sx = edge(x, large.width, width); sx < edge(x + 1, large.width, width); sx++, count++)
                for (let c = 0; c < 4; c++) {
                  const at = 4 * (sy * large.width + sx)
                  const alpha = large.data[at + 3]
                  sums[c] += c < 3 ? large.data[at + c] * alpha : alpha
                }
            const alpha = sums[3]
            const mean = sums.map((of, c) => (c === 3 ? of / count : alpha > 0 ? of / alpha : 0))
            expect([...data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4)]).toEqual([
              ...Uint8ClampedArray.from(mean),
            ])
          }
      }),
    )
  })
})
