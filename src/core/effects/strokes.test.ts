import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { IDENTITY } from '../path'
import { type BrushStroke, MAX_STROKE_POINTS, strokesCover, thinnedStroke } from './strokes'

const SIZE = 48
const stroke = (more: Partial<BrushStroke> = {}): BrushStroke => ({
  size: 16,
  softness: 0,
  strength: 1,
  points: [12, 24, 1, 36, 24, 1],
  ...more,
})
const cover = (...strokes: readonly BrushStroke[]) => strokesCover(strokes, SIZE, SIZE, IDENTITY)
const at = (covered: Uint8ClampedArray, x: number, y: number) => covered[y * SIZE + x]

const place = fc.integer({ min: 0, max: SIZE })
const anyStroke = fc
  .record({
    size: fc.integer({ min: 1, max: 30 }),
    softness: fc.constantFrom(0, 0.3, 1),
    strength: fc.constantFrom(0.2, 0.6, 1),
    points: fc.array(fc.tuple(place, place, fc.constantFrom(0, 0.5, 1)), { minLength: 1, maxLength: 6 }),
  })
  .map(({ points, ...rest }): BrushStroke => ({ ...rest, points: points.flat() }))

describe('strokes of a brush', () => {
  it('cover their line as wide as the brush, and nothing beside it', () => {
    const covered = cover(stroke())
    expect(at(covered, 24, 24)).toBe(255)
    expect(at(covered, 24, 17)).toBe(255)
    expect(at(covered, 24, 14)).toBe(0)
    expect(at(covered, 2, 24)).toBe(0)
    expect(cover().every((value) => value === 0)).toBe(true)
  })
  it('fade from the middle where they are soft, and are thinner where the pen was pressed less', () => {
    const soft = cover(stroke({ softness: 1 }))
    const across = [24, 26, 28, 30, 31].map((y) => at(soft, 24, y))
    expect([...across].sort((a, b) => b - a)).toEqual(across)
    expect(across[4]).toBeLessThan(20)
    const thin = cover(stroke({ points: [12, 24, 0.2, 36, 24, 0.2] }))
    expect(at(thin, 24, 24)).toBe(255)
    expect(at(thin, 24, 19)).toBe(0)
  })
  it('never build up on themselves, and never cover more than all of it', () => {
    fc.assert(
      fc.property(anyStroke, (one) => {
        const most = Math.max(...cover(one))
        expect(most).toBeLessThanOrEqual(Math.round(255 * one.strength))
        const twice = { ...one, points: [...one.points, ...one.points] }
        expect(Math.max(...cover(twice))).toBeLessThanOrEqual(Math.round(255 * one.strength))
      }),
      { numRuns: 40 },
    )
  })
  it('painted over each other cover more, and what takes away leaves less', () => {
    fc.assert(
      fc.property(anyStroke, anyStroke, (a, b) => {
        const one = cover(a)
        const both = cover(a, b)
        const less = cover(a, { ...b, erases: true })
        for (let i = 0; i < one.length; i++) {
          expect(both[i]).toBeGreaterThanOrEqual(one[i])
          expect(less[i]).toBeLessThanOrEqual(one[i])
        }
      }),
      { numRuns: 25 },
    )
  })
  it('are the same at any size: twice as large covers what it covered', () => {
    const small = cover(stroke({ softness: 0.6 }))
    const large = strokesCover([stroke({ softness: 0.6 })], 2 * SIZE, 2 * SIZE, [2, 0, 0, 2, 0, 0])
    for (const [x, y] of [
      [24, 24],
      [14, 27],
      [30, 20],
    ] as const)
      expect(Math.abs(at(small, x, y) - large[2 * y * 2 * SIZE + 2 * x])).toBeLessThan(26)
  })
  it('are thinned to what they need, within a tolerance, with both ends', () => {
    const straight = Array.from({ length: 50 }, (_, i) => [i, 2 * i, 1]).flat()
    expect(thinnedStroke(straight, 0.5)).toEqual([0, 0, 1, 49, 98, 1])
    const corner = [0, 0, 1, 10, 0, 1, 20, 0, 1, 20, 10, 1, 20, 20, 1]
    expect(thinnedStroke(corner, 0.5)).toEqual([0, 0, 1, 20, 0, 1, 20, 20, 1])
    // A change of pressure is a corner, too.
    expect(thinnedStroke([0, 0, 1, 10, 0, 0.2, 20, 0, 1], 0.5)).toHaveLength(9)
    expect(thinnedStroke([7.3456, 2, 0.555], 1)).toEqual([7.3, 2, 0.56])
    const wild = Array.from({ length: 9000 }, (_, i) => [(i * 7919) % 997, (i * 104729) % 991, 1]).flat()
    expect(thinnedStroke(wild, 0.1).length / 3).toBeLessThanOrEqual(MAX_STROKE_POINTS)
  })
})
