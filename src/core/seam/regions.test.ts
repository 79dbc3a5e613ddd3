import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import { descriptorOf } from './descriptor'
import { outlyingSteps, REGIONS, regionSteps } from './regions'
import { seriesOf } from './series'

const SIDE = 48

/** A dark picture with a light square at a place. */
function square(x: number, y: number): Picture {
  const data = new Uint8ClampedArray(SIDE * SIDE * 4)
  for (let i = 0; i < data.length; i += 4) {
    const px = (i / 4) % SIDE
    const py = Math.floor(i / 4 / SIDE)
    data.fill(px >= x && px < x + 6 && py >= y && py < y + 6 ? 230 : 20, i, i + 3)
    data[i + 3] = 255
  }
  return { width: SIDE, height: SIDE, data }
}

describe('where a step is', () => {
  it('adds up: the squares of the regions are the square of the step', () => {
    const place = fc.tuple(fc.nat(SIDE - 6), fc.nat(SIDE - 6))
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 9 }), (places) => {
        const series = seriesOf(places.map(([x, y]) => descriptorOf(square(x, y))))
        for (const [n, regions] of regionSteps(series).entries())
          expect(regions.reduce((sum, r) => sum + r * r, 0)).toBeCloseTo(series.steps[n] ** 2, 6)
      }),
      { numRuns: 40 },
    )
  })
  it('names the region in which something moves', () => {
    for (const [k, name] of REGIONS.entries()) {
      const x = 16 * (k % 3) + 4
      const y = 16 * Math.floor(k / 3) + 4
      const [regions] = regionSteps(seriesOf([square(x, y), square(x + 3, y)].map((picture) => descriptorOf(picture))))
      expect(REGIONS[(regions ?? []).indexOf(Math.max(...(regions ?? [])))]).toBe(name)
    }
  })
})

describe('steps out of family', () => {
  it('are those that robust statistics leave no room for, the furthest first', () => {
    const steps = new Array<number>(40).fill(1).map((step, n) => step + 0.01 * (n % 3))
    steps[7] = 9
    steps[20] = 0
    steps[30] = 30
    expect(outlyingSteps(steps)).toEqual([30, 7, 20])
    expect(outlyingSteps(new Array<number>(12).fill(0))).toEqual([])
  })
  it('are none where the speed varies smoothly', () => {
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 200 }), fc.double({ min: 0, max: 0.6, noNaN: true }), (N, swing) => {
        const steps = Array.from({ length: N }, (_, n) => 1 + swing * Math.sin((2 * Math.PI * n) / N))
        expect(outlyingSteps(steps)).toEqual([])
      }),
    )
  })
})
