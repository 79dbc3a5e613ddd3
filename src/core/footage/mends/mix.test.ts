import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { seeded } from '../../random'
import { eachPatch, type Mixed, mixFrame, patchMap, SEVERAL, shownOf } from '..'

const WIDTH = 24
const HEIGHT = 16
const noisy = (seed: number, clear = false): Picture => ({
  width: WIDTH,
  height: HEIGHT,
  data: Uint8ClampedArray.from({ length: 4 * WIDTH * HEIGHT }, (_, i) =>
    i % 4 === 3 ? (clear ? Math.floor(256 * seeded(seed, i, 9)) : 255) : Math.floor(256 * seeded(seed, i)),
  ),
})
const AS_IT_IS = [1, 1, 1] as const
const alone = (frame: number): Mixed => ({ parts: [{ frame, weight: 1, gain: AS_IT_IS }], keepVariance: false })
const mixed = (w: number, more: Partial<Mixed> = {}): Mixed => ({
  parts: [
    { frame: 0, weight: 1 - w, gain: AS_IT_IS },
    { frame: 1, weight: w, gain: AS_IT_IS },
  ],
  keepVariance: false,
  ...more,
})
const sources = [noisy(1), noisy(2), noisy(3)]
const source = (n: number) => sources[n]

const maps = fc
  .tuple(fc.integer({ min: 1, max: 6 }), fc.integer({ min: 1, max: 4 }))
  .chain(([across, down]) =>
    fc
      .array(fc.nat(2), { minLength: across * down, maxLength: across * down })
      .map((labels) => patchMap(across, down, labels)),
  )

describe('a frame that is put together of regions', () => {
  it('is each of them where it alone is shown, and lies between them where borders are soft', () => {
    fc.assert(
      fc.property(maps, (map) => {
        const made = mixFrame({ map, pieces: [0, 1, 2].map(alone) }, source)
        const labels = shownOf(map, WIDTH, HEIGHT)
        for (let p = 0; p < WIDTH * HEIGHT; p++)
          for (let c = 0; c < 4; c++) {
            const own = sources.map(({ data }) => data[4 * p + c])
            const value = made.data[4 * p + c]
            if (labels[p] !== SEVERAL) expect(value).toBe(own[labels[p]])
            else {
              expect(value).toBeGreaterThanOrEqual(Math.min(...own) - 1)
              expect(value).toBeLessThanOrEqual(Math.max(...own) + 1)
            }
          }
      }),
      { numRuns: 40 },
    )
  })
  it('asks of the source for no more than is shown', () => {
    fc.assert(
      fc.property(maps, (map) => {
        const wanted = sources.map(() => new Set<number>())
        const shown = sources.map(() => new Set<number>())
        eachPatch(map, WIDTH, HEIGHT, (p, label) => void shown[label]?.add(p))
        mixFrame({ map, pieces: [0, 1, 2].map(alone) }, (n, where) => {
          for (let p = 0; p < WIDTH * HEIGHT; p++) if (where?.(p)) wanted[n]?.add(p)
          return source(n)
        })
        for (const [n, pixels] of shown.entries()) for (const p of pixels) expect(wanted[n]?.has(p)).toBe(true)
        // Where one alone is shown, the others are not asked for.
        const labels = shownOf(map, WIDTH, HEIGHT)
        for (const [n, pixels] of wanted.entries()) for (const p of pixels) expect([n, SEVERAL]).toContain(labels[p])
      }),
      { numRuns: 40 },
    )
  })
  it('knows its map at each size that is asked for', () => {
    const map = patchMap(2, 1, [0, 1])
    expect([shownOf(map, 8, 4).length, shownOf(map, 6, 2).length, shownOf(map, 8, 4).length]).toEqual([32, 12, 32])
    expect(shownOf(map, 8, 4)).toBe(shownOf(map, 8, 4))
  })
})

describe('pictures that are mixed', () => {
  it('are the one or the other at the ends, and between them on the way; alpha likewise', () => {
    const half = [noisy(4, true), noisy(5, true)] as const
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (w) => {
        const { data } = mixFrame(mixed(w), (n) => half[n])
        for (let p = 0; p < WIDTH * HEIGHT; p++) {
          const [a, b] = half.map((each) => each.data[4 * p + 3]) as [number, number]
          expect(Math.abs(data[4 * p + 3] - (a + w * (b - a)))).toBeLessThanOrEqual(0.51)
        }
      }),
      { numRuns: 20 },
    )
    expect(mixFrame(alone(1), source)).toBe(source(1))
    expect(mixFrame(mixed(0), source).data).toEqual(source(0).data)
  })
  it('of one picture with itself are that picture, whether contrast is kept or it is morphed', () => {
    for (const more of [{}, { keepVariance: true }, { morph: true }]) {
      const made = mixFrame(mixed(0.5, more), () => source(0))
      for (const [i, value] of made.data.entries()) expect(Math.abs(value - source(0).data[i])).toBeLessThanOrEqual(1)
    }
  })
  it('are brought into the light of their parts, in a morph, too', () => {
    const grey: Picture = {
      width: 32,
      height: 32,
      data: new Uint8ClampedArray(4 * 32 * 32).fill(255).map((v, i) => (i % 4 === 3 ? v : 100)),
    }
    const brighter = (more: Partial<Mixed>) =>
      mixFrame(
        {
          parts: [0, 1].map((frame) => ({ frame, weight: 0.5, gain: [2, 2, 2] as const })),
          keepVariance: false,
          ...more,
        },
        () => grey,
      )
    const plain = brighter({})
    const morph = brighter({ morph: true })
    // Twice the light of 100 is 137.
    expect(Math.abs(plain.data[0] - 137)).toBeLessThanOrEqual(1)
    expect(Math.abs(morph.data[2000] - 137)).toBeLessThanOrEqual(1)
  })
  it('cannot be of nothing', () => {
    expect(() => mixFrame({ parts: [], keepVariance: false }, source)).toThrow(RangeError)
    expect(() => mixFrame({ map: patchMap(1, 1, [0]), pieces: [] }, source)).toThrow(RangeError)
  })
})
