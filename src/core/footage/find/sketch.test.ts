import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reducePicture } from '../../image'
import { seeded } from '../../random'
import { field, filmed, wall } from '../../testing/footage'
import { Distances, type Glimpse, glimpseOf, MAX_SEARCHED, sketchesOf } from '..'

const shot = (width: number, n: number) =>
  filmed(
    {
      ...{ width, height: Math.round((width * 9) / 16), frames: 1, seed: 3, grain: 4, looks: 1 },
      scene(x, y, at, into) {
        wall(x, y, into)
        if (y > 0) into.fill(120 + 80 * field(8, 7 * x + 0.7 * at, 7 * y))
      },
    },
    n,
  )
const apart = (a: ArrayLike<number>, b: ArrayLike<number>) =>
  Math.sqrt(Array.from(a).reduce((sum, x, k) => sum + (x - b[k]) ** 2, 0))

const between = (a: Glimpse, b: Glimpse) => apart(a.data, b.data)

describe('a glimpse of a large picture', () => {
  it('tells it from others as that of a small one does, though it looks at some of its px alone', () => {
    for (const [i, j] of [
      [0, 1],
      [0, 4],
      [2, 9],
    ] as const) {
      const large = between(glimpseOf(shot(900, i)), glimpseOf(shot(900, j)))
      const small = between(glimpseOf(reducePicture(shot(900, i), 200)), glimpseOf(reducePicture(shot(900, j), 200)))
      expect(Math.abs(large / small - 1)).toBeLessThan(0.15)
    }
  })
  it('is no larger than 64 px, and of a plain picture of any shape that colour on black, and its alpha', () => {
    const size = fc.integer({ min: 1, max: 1400 })
    const colour = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255), fc.nat(255))
    fc.assert(
      fc.property(size, size, colour, fc.boolean(), (width, height, [r, g, b, a], opaque) => {
        const alpha = opaque ? 255 : a
        const data = new Uint8ClampedArray(4 * width * height)
        new Uint32Array(data.buffer).fill(((alpha << 24) | (b << 16) | (g << 8) | r) >>> 0)
        const glimpse = glimpseOf({ width, height, data })
        const down = glimpse.data.length / 4 / glimpse.width
        expect(Math.max(glimpse.width, down)).toBeLessThanOrEqual(64)
        expect(Number.isInteger(down)).toBe(true)
        for (const at of [0, glimpse.data.length - 4])
          for (const [c, value] of [r, g, b, 255].entries())
            expect(Math.abs(glimpse.data[at + c] - (value * alpha) / 255)).toBeLessThanOrEqual(1.01)
      }),
      { numRuns: 60 },
    )
  })
})

/**
 * Glimpses of a clip: a ground with grain, and lit values whose share of the picture is given, each by its own amount
 * at each frame; all of it under some light.
 */
const glimpses = (
  lit: readonly number[],
  share: number,
  light: (n: number) => number = () => 1,
  grain = 2,
): Glimpse[] =>
  lit.map((by, n) => ({
    width: 64,
    data: Uint8Array.from({ length: 4 * 2304 }, (_, i) => {
      if (i % 4 === 3) return 255
      const own = i >> 2 < share * 2304 ? 60 + by : 60 + 60 * seeded(5, i)
      return light(n) * own + grain * (seeded(9, n, i) - 0.5) * 3.46
    }),
  }))
/** How far frames that are alike are apart against those that are not. */
const told = (all: readonly Glimpse[]): number => {
  const sketches = sketchesOf(all)
  const [a, b, c] = [sketches[0], sketches[20], sketches[10]] as [Float32Array, Float32Array, Float32Array]
  return apart(a, b) / apart(a, c)
}

describe('sketches of a clip', () => {
  const swings = Array.from({ length: 60 }, (_, n) => 60 * Math.cos((2 * Math.PI * n) / 20))
  it('tell frames by what moves, though that be small', () => {
    // Of 2,304 px a dozen.
    expect(told(glimpses(swings, 0.005, undefined, 3))).toBeLessThan(0.35)
    // As they lie, grain outvotes it.
    const [a, b, c] = [0, 20, 10].map((n) => glimpses(swings, 0.005, undefined, 3)[n]) as [Glimpse, Glimpse, Glimpse]
    expect(between(a, b) / between(a, c)).toBeGreaterThan(1.3 * told(glimpses(swings, 0.005, undefined, 3)))
  })
  it('do not tell them by light that grows or falls all the time, but by light that comes and goes', () => {
    const ramp = (n: number) => 1 + (0.3 * (n - 30)) / 60
    expect(told(glimpses(swings, 0.1, ramp))).toBeLessThan(0.35)
    const breathes = (n: number) => 1 + 0.2 * Math.cos((2 * Math.PI * n) / 20)
    const still = swings.map(() => 0)
    expect(told(glimpses(still, 0.1, breathes))).toBeLessThan(0.35)
  })
  it('are apart as frames are, where all of them moves', () => {
    const all = [0, 1, 2, 3, 4, 5, 6, 7].map((n) => glimpseOf(shot(240, 3 * n)))
    const whole = all.map(({ width, data }) => ({ width, data: data.map((value, i) => (i % 4 === 3 ? 255 : value)) }))
    const sketches = sketchesOf(whole)
    const ratios = [1, 3, 5].map(
      (n) =>
        apart(sketches[0] ?? [], sketches[n] ?? []) /
        (apart(whole[0]?.data ?? [], whole[n]?.data ?? []) / Math.sqrt(all[0]?.data.length ?? 1)),
    )
    for (const ratio of ratios) expect(Math.abs(ratio - 1)).toBeLessThan(0.25)
  })
})

describe('distances of frames', () => {
  const clips = fc.tuple(fc.integer({ min: 2, max: 12 }), fc.nat(999)).map(([count, seed]) =>
    Array.from({ length: count }, (_, n) => ({
      width: 8,
      data: Uint8Array.from({ length: 160 }, (__, k) => 255 * seeded(seed, n, k)),
    })),
  )
  it('are those of each two, either way round, and nothing to itself', () => {
    fc.assert(
      fc.property(clips, (clip) => {
        const distances = new Distances(clip)
        const all = sketchesOf(clip)
        expect(distances.frames).toBe(all.length)
        for (const [i, a] of all.entries())
          for (const [j, b] of all.entries()) {
            expect(distances.at(i, j)).toBe(distances.at(j, i))
            const own = apart(a, b) ** 2
            expect(Math.abs(distances.at(i, j) - own)).toBeLessThan(0.05 + 1e-4 * own)
          }
        for (const i of all.keys())
          expect([...distances.from(i)]).toEqual(all.slice(i + 1).map((_, k) => distances.at(i, i + 1 + k)))
      }),
      { numRuns: 30 },
    )
  })
  it('are worked out for so many frames and no more, which is said', () => {
    const one = { width: 2, data: new Uint8Array(16) }
    expect(() => new Distances(Array.from({ length: MAX_SEARCHED + 1 }, () => one))).toThrow('Crop it first')
  })
})
