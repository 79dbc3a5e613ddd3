import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import { seeded } from '../random'
import { type Bend, cloudy, displaced, grained, heatHaze, waves } from '.'
import { wholeCounts } from './whole-counts'

/** A picture of random colours, all opaque. */
function noisePicture(width: number, height: number, seed: number): Picture {
  const data = Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) =>
    i % 4 === 3 ? 255 : 256 * seeded(seed, i),
  )
  return { width, height, data }
}

describe('numbers that must be whole where they tile', () => {
  it('go over to the next one without a step, by shares that add up to 1', () => {
    fc.assert(
      fc.property(fc.double({ min: -40, max: 40, noNaN: true }), (value) => {
        const shares = (at: number) => new Map(wholeCounts(at).map(({ count, share }) => [count, share]))
        const here = shares(value)
        const there = shares(value + 1e-4)
        expect([...here.values()].reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12)
        for (const count of new Set([...here.keys(), ...there.keys()]))
          expect(Math.abs((here.get(count) ?? 0) - (there.get(count) ?? 0))).toBeLessThan(1e-3)
        expect(wholeCounts(Math.round(value))).toEqual([{ count: Math.round(value), share: 1 }])
      }),
    )
  })
  const picture = noisePicture(96, 54, 5)
  const bend = (size: number): Bend => ({ amount: 6, size, angle: 0.4, time: 0.3, seed: 3, centre: { x: 48, y: 27 } })
  const sized: readonly [string, (size: number) => Picture][] = [
    ['waves', (s) => displaced(picture, waves(96, 54, bend(s)), 'wrap')],
    ['heat haze', (s) => displaced(picture, heatHaze(96, 54, bend(s)), 'wrap')],
    ['glass', (s) => displaced(picture, cloudy(96, 54, bend(s)), 'wrap')],
    ['grain', (s) => grained(picture, { amount: 0.1, size: s, coloured: false, seed: 2, step: 0 })],
  ]
  it.each(sized)('let a size that moves go on without a pop: %s', (name, at) => {
    const sizes = Array.from({ length: 120 }, (_, i) => (name === 'grain' ? 2 : 20) * (1 + 0.005 * i))
    const pictures = sizes.map(at)
    const steps = pictures.slice(1).map((each, i) => meanDifference(each, pictures[i]))
    const most = Math.max(...steps)
    const usual = steps.reduce((sum, step) => sum + step, 0) / steps.length
    // Rounded sizes stand still and then change by all at once.
    expect(most).toBeLessThan(8 * usual)
    expect(usual).toBeGreaterThan(0)
  })
})

/** Mean difference of the bytes of two pictures. */
function meanDifference(a: Picture, b: Picture): number {
  return a.data.reduce((sum, value, i) => sum + Math.abs(value - b.data[i]), 0) / a.data.length
}
