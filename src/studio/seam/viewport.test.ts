import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bounded, MAX_COMPARED_ZOOM, type ShownRegion, zoomed } from './viewport'

const sizes = fc
  .record({
    width: fc.integer({ min: 1, max: 4000 }),
    height: fc.integer({ min: 1, max: 4000 }),
    room: fc.integer({ min: 100, max: 900 }),
  })
  .map(({ width, height, room }) => ({ width, height, fit: Math.min(room / width, room / height) }))
const share = fc.double({ min: 0, max: 1, noNaN: true })

describe('the view of compared pictures', () => {
  it('never shows more beside the picture than it must, whatever is done', () => {
    fc.assert(
      fc.property(sizes, share, share, fc.double({ min: 0.01, max: 100, noNaN: true }), (size, x, y, factor) => {
        const whole: ShownRegion = { zoom: size.fit, x: size.width / 2, y: size.height / 2 }
        const point = { x: (x - 0.5) * size.width * size.fit, y: (y - 0.5) * size.height * size.fit }
        const view = zoomed(whole, size.fit * factor, point, size)
        expect(view.zoom).toBeGreaterThanOrEqual(size.fit)
        expect(view.zoom).toBeLessThanOrEqual(Math.max(size.fit, MAX_COMPARED_ZOOM))
        for (const [at, side] of [
          [view.x, size.width],
          [view.y, size.height],
        ] as const) {
          const half = (side * size.fit) / view.zoom / 2
          expect(at - half).toBeGreaterThanOrEqual(-1e-6 * side)
          expect(at + half).toBeLessThanOrEqual(side * (1 + 1e-6))
        }
      }),
    )
  })
  it('zooms about the point: what lies under the pointer stays there', () => {
    const size = { width: 400, height: 300, fit: 1 }
    const from: ShownRegion = { zoom: 4, x: 200, y: 150 }
    const point = { x: 80, y: -40 }
    const view = zoomed(from, 8, point, size)
    expect(view.x + point.x / view.zoom).toBeCloseTo(from.x + point.x / from.zoom, 9)
    expect(view.y + point.y / view.zoom).toBeCloseTo(from.y + point.y / from.zoom, 9)
  })
  it('is brought back to the edge when it is dragged off it', () => {
    expect(bounded({ zoom: 2, x: -50, y: 900 }, { width: 400, height: 300, fit: 1 })).toEqual({
      zoom: 2,
      x: 100,
      y: 225,
    })
  })
})
