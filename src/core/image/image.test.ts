import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { difference, greatestDifference, type Palette, type Picture, paletteMapper } from '.'

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
    const [small, large] = [picture(2, 2, () => [0, 0, 0, 255]), picture(3, 2, () => [0, 0, 0, 255])]
    expect(() => difference(small, large, 1)).toThrow('2×2 and 3×2 px')
  })
})

const GREYS: Palette = [[0, 0, 0], ...[0, 64, 128, 192, 255].map((v) => [v, v, v])]

describe('colours of a palette', () => {
  it.each(['none', 'diffusion'] as const)('are found again as they are, with dithering %s', (dithering) => {
    const exact = picture(5, 4, (x) => [...(GREYS[x + 1] as readonly number[]), 255])
    const indices = paletteMapper(GREYS, dithering, false)(exact)
    expect([...indices]).toEqual(Array.from({ length: 20 }, (_, i) => (i % 5) + 1))
  })
  it('are the nearest ones where nothing is dithered', () => {
    fc.assert(
      fc.property(fc.nat(255), (v) => {
        const [index] = paletteMapper(GREYS, 'none', false)(picture(1, 1, () => [v, v, v, 255]))
        const off = (i: number) => Math.abs(((GREYS[i] as readonly number[])[0] as number) - v)
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
    const [first, second] = [map(frame(0)), map(frame(1))]
    for (let i = 0; i < first.length; i++) if (i % 32 < 16) expect(second[i]).toBe(first[i])
    expect(second).not.toEqual(first)
  })
  it.each(['ordered', 'diffusion'] as const)('keep the mean of a tone between two, with dithering %s', (dithering) => {
    fc.assert(
      fc.property(fc.integer({ min: 70, max: 185 }), (v) => {
        const indices = paletteMapper(GREYS, dithering, false)(picture(64, 64, () => [v, v, v, 255]))
        const mean =
          indices.reduce((sum, i) => sum + ((GREYS[i] as readonly number[])[0] as number), 0) / indices.length
        expect(Math.abs(mean - v)).toBeLessThan(dithering === 'ordered' ? 20 : 4)
      }),
      { numRuns: 30 },
    )
  })
})
