import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  freehandPath,
  isClosed,
  movePathPoint,
  type PenPoint,
  pathBox,
  pathOf,
  pathPoints,
  pathRuler,
  penPath,
  svgPathData,
} from '.'

const coordinate = fc.double({ min: -200, max: 200, noNaN: true }).map((x) => Number(x.toFixed(2)))
const anyPen: fc.Arbitrary<PenPoint> = fc.record({
  x: coordinate,
  y: coordinate,
  handle: fc.oneof(fc.constant({ x: 0, y: 0 }), fc.record({ x: coordinate, y: coordinate })),
})

describe('a path set with the pen', () => {
  it('runs through all its points, straight where no handle is pulled', () => {
    fc.assert(
      fc.property(fc.array(anyPen, { minLength: 2, maxLength: 8 }), fc.boolean(), (points, closed) => {
        const path = penPath(points, closed)
        expect(isClosed(path)).toBe(closed)
        const ends = path.flatMap(([letter, ...numbers]) => (letter === 'Z' ? [] : [numbers.slice(-2)]))
        for (const [i, { x, y }] of points.entries()) expect(ends[i]).toEqual([x, y])
        const corner = points.every(({ handle }) => handle.x === 0 && handle.y === 0)
        expect(path.some(([letter]) => letter === 'C')).toBe(!corner)
      }),
    )
    expect(penPath([], true)).toEqual([])
  })
})

describe('a path drawn freehand', () => {
  it('stays near to what was drawn, with far fewer points', () => {
    const drawn = Array.from({ length: 200 }, (_, i) => ({ x: i, y: 40 * Math.sin(i / 25) + Math.sin(i) * 0.4 }))
    const path = freehandPath(drawn, 1.5, false)
    expect(path.length).toBeLessThan(40)
    const ruler = pathRuler(path)
    const places = Array.from({ length: 400 }, (_, i) => ruler.at((i / 399) * ruler.length))
    for (const point of drawn) {
      const near = Math.min(...places.map(({ x, y }) => Math.hypot(x - point.x, y - point.y)))
      expect(near).toBeLessThan(4)
    }
  })
  it('closes smoothly where it is closed', () => {
    const ring = Array.from({ length: 60 }, (_, i) => ({ x: 50 * Math.cos(i / 9.6), y: 50 * Math.sin(i / 9.6) }))
    const path = freehandPath(ring, 0.5, true)
    expect(isClosed(path)).toBe(true)
    const box = pathBox(path)
    expect(box?.width).toBeGreaterThan(95)
  })
})

describe('points of a path', () => {
  it('are moved one by one, and an end takes the handles beside it along', () => {
    const data = 'M0 0C10 0 20 10 20 20C20 30 10 40 0 40Z'
    expect(pathPoints(data)).toHaveLength(7)
    const moved = movePathPoint(data, { segment: 1, part: 2 }, 25, 22)
    expect(moved).toBe('M0 0C10 0 25 12 25 22C25 32 10 40 0 40Z')
    expect(movePathPoint(data, { segment: 2, part: 0 }, 5, 5)).toBe('M0 0C10 0 20 10 20 20C5 5 10 40 0 40Z')
    expect(movePathPoint(data, { segment: 9, part: 2 }, 5, 5)).toBe(data)
  })
  it('moved there and back leave the path as it was', () => {
    fc.assert(
      fc.property(
        fc.array(anyPen, { minLength: 2, maxLength: 6 }),
        fc.nat(),
        coordinate,
        coordinate,
        (points, pick, x, y) => {
          // Apart from each other, so that no point comes to lie on another one by the move.
          const apart = points.map((point, i) => ({ ...point, x: point.x + 1000 * i }))
          const data = svgPathData(penPath(apart, true))
          const all = pathPoints(data)
          const point = all[pick % all.length]
          if (!point) throw new Error('the path has points')
          const back = movePathPoint(movePathPoint(data, point, x, y - 5000), point, point.x, point.y)
          // A curve that lies straight may come back as a line, so its ends are what is compared.
          const ends = (text: string) => pathPoints(text).filter(({ part }) => part === 2)
          const before = ends(data)
          const after = ends(back)
          for (const [i, each] of before.entries()) {
            expect(after[i]?.x).toBeCloseTo(each.x, 2)
            expect(after[i]?.y).toBeCloseTo(each.y, 2)
          }
          expect(pathOf(back)).toHaveLength(pathOf(data).length)
        },
      ),
    )
  })
})
