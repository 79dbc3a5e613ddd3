import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ColourCount, deservesOwn, onMatte, type Picture, toYuv420 } from '.'

const picture = (pixels: readonly (readonly number[])[], width = pixels.length): Picture => ({
  width,
  height: pixels.length / width,
  data: Uint8ClampedArray.from(pixels.flatMap(([r = 0, g = 0, b = 0, a = 255]) => [r, g, b, a])),
})
const counted = (...pixels: readonly (readonly number[])[]) => {
  const count = new ColourCount()
  count.add(picture(pixels), false)
  return count
}
const byte = fc.nat(255)
const colour = fc.tuple(byte, byte, byte)

describe('colours of a palette', () => {
  it('are the colours themselves where they are few', () => {
    fc.assert(
      fc.property(fc.uniqueArray(colour, { minLength: 1, maxLength: 20, selector: String }), (colours) => {
        const few = counted(...colours).few(20)
        expect(few?.map(String).sort()).toEqual(colours.map(String).sort())
        expect(counted(...colours).few(colours.length - 1)).toBeNull()
      }),
    )
  })
  it('lie nearer to the pixels the more there are, and never stand apart from them', () => {
    fc.assert(
      fc.property(fc.array(colour, { minLength: 30, maxLength: 120 }), (colours) => {
        const count = counted(...colours)
        const error = (most: number) => count.error([[0, 0, 0], ...count.palette(most)])
        expect(error(16)).toBeLessThanOrEqual(error(2) + 1e-9)
        expect(count.palette(16).length).toBeLessThanOrEqual(16)
        for (const [c, values] of [0, 1, 2].map((c) => [c, count.palette(8).map((each) => each[c])] as const)) {
          const own = colours.map((each) => each[c])
          expect(Math.min(...values)).toBeGreaterThanOrEqual(Math.min(...own))
          expect(Math.max(...values)).toBeLessThanOrEqual(Math.max(...own))
        }
      }),
    )
  })
  it('are two for two crowds, each in the middle of its own', () => {
    const crowd = (at: number) => Array.from({ length: 50 }, (_, i) => [at + (i % 5) - 2, at, at])
    expect(counted(...crowd(40), ...crowd(200)).palette(2)).toEqual([
      [40, 40, 40],
      [200, 200, 200],
    ])
  })
  it('give clear pixels no colour', () => {
    const count = new ColourCount()
    count.add(
      picture([
        [9, 9, 9, 0],
        [200, 100, 50, 255],
      ]),
      true,
    )
    expect(count.few(4)).toEqual([[200, 100, 50]])
  })
  it('are counted of noise too, alike ones together', () => {
    const count = new ColourCount()
    const noise = Array.from({ length: 40_000 }, (_, i) => [(i * 7) & 255, ((i * 31) >> 4) & 255, ((i * 5) >> 8) & 255])
    count.add(picture(noise, 200), false)
    expect(count.error([[0, 0, 0], ...count.palette(255)])).toBeLessThan(
      count.error([[0, 0, 0], ...count.palette(16)]) / 2,
    )
  })
  it('are a frame’s own only where that is seen and worth it', () => {
    expect(deservesOwn(1, 0)).toBe(false)
    expect(deservesOwn(8, 7)).toBe(false)
    expect(deservesOwn(8, 2)).toBe(true)
  })
})

describe('a matte', () => {
  it('mixes edges with its colour, and leaves what is clear clear', () => {
    const { data } = onMatte(
      picture([
        [255, 0, 0, 255],
        [255, 0, 0, 128],
        [255, 0, 0, 10],
        [0, 0, 0, 0],
      ]),
      [0, 0, 255],
    )
    expect([...data]).toEqual([255, 0, 0, 255, 128, 0, 127, 255, 0, 0, 0, 0, 0, 0, 0, 0])
  })
})

describe('a picture as video codes it', () => {
  it('has the levels of BT.709 for black, white and the primaries', () => {
    const planes = (r: number, g: number, b: number) => [...toYuv420(picture(Array(4).fill([r, g, b]), 2))].slice(3)
    expect(planes(0, 0, 0)).toEqual([16, 128, 128])
    expect(planes(255, 255, 255)).toEqual([235, 128, 128])
    expect(planes(255, 0, 0)).toEqual([63, 102, 240])
    expect(planes(0, 0, 255)).toEqual([32, 240, 118])
  })
})
