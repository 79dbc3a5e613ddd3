import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { reducePicture } from '../image'
import { seeded } from '../random'
import { field, filmed, wall } from '../testing/footage'
import { Distances, MOST_SEARCHED, sketchOf } from '.'

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
const apart = (a: Float32Array, b: Float32Array) =>
  Math.sqrt(a.reduce((sum, x, k) => sum + (x - (b[k] as number)) ** 2, 0))

describe('a sketch of a large picture', () => {
  it('tells it from others as that of a small one does, though it looks at some of its px alone', () => {
    for (const [i, j] of [
      [0, 1],
      [0, 4],
      [2, 9],
    ] as const) {
      const large = apart(sketchOf(shot(900, i)), sketchOf(shot(900, j)))
      const small = apart(sketchOf(reducePicture(shot(900, i), 200)), sketchOf(reducePicture(shot(900, j), 200)))
      expect(Math.abs(large / small - 1)).toBeLessThan(0.15)
    }
  })
  it('is the same for the same picture', () => {
    expect(apart(sketchOf(shot(900, 3)), sketchOf(shot(900, 3)))).toBe(0)
  })
})

describe('distances of frames', () => {
  const sketches = fc
    .tuple(fc.integer({ min: 2, max: 12 }), fc.nat(999))
    .map(([count, seed]) =>
      Array.from({ length: count }, (_, n) =>
        Float32Array.from({ length: 128 }, (__, k) => 20 * (seeded(seed, n, k) - 0.5)),
      ),
    )
  it('are those of each two, either way round, and nothing to itself', () => {
    fc.assert(
      fc.property(sketches, (all) => {
        const distances = new Distances(all)
        expect(distances.frames).toBe(all.length)
        for (const [i, a] of all.entries())
          for (const [j, b] of all.entries()) {
            expect(distances.at(i, j)).toBe(distances.at(j, i))
            expect(Math.abs(distances.at(i, j) - apart(a, b) ** 2)).toBeLessThan(0.05)
          }
        for (const i of all.keys())
          expect([...distances.from(i)]).toEqual(all.slice(i + 1).map((_, k) => distances.at(i, i + 1 + k)))
      }),
      { numRuns: 30 },
    )
  })
  it('are worked out for so many frames and no more, which is said', () => {
    const one = new Float32Array(128)
    expect(() => new Distances(Array.from({ length: MOST_SEARCHED + 1 }, () => one))).toThrow('Crop it first')
  })
})
