import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  beltPath,
  type Circle,
  fitLinks,
  hullPath,
  isClosed,
  parsePath,
  pathLength,
  pathOf,
  pathRuler,
  svgPathData,
} from '.'

const coordinate = fc.double({ min: -300, max: 300, noNaN: true })
/** Curves with loops, cusps and hairpins. */
const wild = fc
  .tuple(
    coordinate,
    coordinate,
    fc.array(fc.tuple(coordinate, coordinate, coordinate, coordinate, coordinate, coordinate), {
      minLength: 1,
      maxLength: 5,
    }),
    fc.boolean(),
  )
  .map(([x, y, curves, closed]) =>
    pathOf(`M${x} ${y}${curves.map((c) => `C${c.join(' ')}`).join('')}${closed ? 'Z' : ''}`),
  )
  .filter((path) => pathLength(path) > 50)

describe('a ruler', () => {
  it('spaces places evenly along wild curves, within 0.1 %', () => {
    fc.assert(
      fc.property(wild, fc.integer({ min: 2, max: 12 }), (path, count) => {
        const ruler = pathRuler(path)
        expect(ruler.length / pathLength(path)).toBeCloseTo(1, 2)
        // The true length between two neighbours, from chords so short that they follow the curve.
        const pitch = ruler.length / count
        for (let i = 0; i < count; i++) {
          const points = Array.from({ length: 2001 }, (_, k) =>
            ruler.at(i * pitch + (k / 2000) * pitch * (i === count - 1 ? 1 - 1e-9 : 1)),
          )
          const way = points
            .slice(1)
            .reduce((sum, p, k) => sum + Math.hypot(p.x - (points[k]?.x ?? 0), p.y - (points[k]?.y ?? 0)), 0)
          expect(way / pitch - 1).toBeLessThan(0.001)
          // A chord across a point where the curve turns on itself loses up to its own length; three curves have six of these.
          expect(way / pitch - 1).toBeGreaterThan(-0.001 - 6 / 2000)
        }
      }),
      { numRuns: 40 },
    )
  })
  it('runs on round a closed path and stops at the ends of an open one', () => {
    const ring = pathRuler(pathOf('M0 -10A10 10 0 0 1 0 10A10 10 0 0 1 0 -10Z'))
    expect(ring.closed).toBe(true)
    expect(ring.at(ring.length * 1.25).x).toBeCloseTo(10, 2)
    expect(ring.at(ring.length * 1.25).angle).toBeCloseTo(90, 1)
    const line = pathRuler(pathOf('M0 0L40 0'))
    expect([line.at(-5).x, line.at(10).x, line.at(90).x].map(Math.round)).toEqual([0, 10, 40])
  })
  it('fits a whole number of links of nearly the wanted pitch', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 5000, noNaN: true }),
        fc.double({ min: 1, max: 200, noNaN: true }),
        (length, wanted) => {
          const { count, pitch } = fitLinks(length, wanted)
          expect(Number.isInteger(count)).toBe(true)
          expect(count * pitch).toBeCloseTo(length, 6)
          if (count > 1) expect(pitch / wanted).toBeGreaterThan(0.6)
        },
      ),
    )
  })
})

describe('path data', () => {
  it('is read as SVG says, relative, smooth and arcs too', () => {
    expect(svgPathData(pathOf('m10 10 h20 v10 l-5 5z'))).toBe('M10 10L30 10L30 20L25 25Z')
    expect(pathOf('M0 0Q10 20 20 0T40 0').every(([letter]) => letter === 'M' || letter === 'C')).toBe(true)
    expect(pathLength(pathOf('M10 0A10 10 0 0 1 -10 0'))).toBeCloseTo(10 * Math.PI, 1)
  })
  it('that is none is none', () => {
    for (const text of ['teapot', 'M0', 'L1 2', 'M0 0L', 'M1e99 0L0 0', '<svg>']) expect(parsePath(text)).toBeNull()
  })
  it('is written as it is read', () => {
    fc.assert(
      fc.property(wild, (path) => {
        const again = pathOf(svgPathData(path))
        expect(isClosed(again)).toBe(isClosed(path))
        expect(pathLength(again)).toBeCloseTo(pathLength(path), 1)
      }),
    )
  })
})

describe('a belt round drums', () => {
  const anyDrums: fc.Arbitrary<Circle[]> = fc.array(
    fc.record({ x: coordinate, y: coordinate, radius: fc.double({ min: 5, max: 80, noNaN: true }) }),
    { minLength: 1, maxLength: 5 },
  )
  it('touches them from outside, and closes', () => {
    fc.assert(
      fc.property(anyDrums, (drums) => {
        const path = beltPath(drums)
        expect(isClosed(path)).toBe(true)
        const ruler = pathRuler(path)
        for (let i = 0; i < 60; i++) {
          const { x, y } = ruler.at((i / 60) * ruler.length)
          // No drum reaches over the belt, and the belt is never far from the hull of all.
          const inside = drums.map((drum) => drum.radius - Math.hypot(x - drum.x, y - drum.y))
          expect(Math.max(...inside)).toBeLessThan(0.6)
        }
      }),
      { numRuns: 80 },
    )
  })
  it('of two like drums is two straights and one turn', () => {
    const path = beltPath([
      { x: 0, y: 0, radius: 30 },
      { x: 200, y: 0, radius: 30 },
    ])
    expect(pathLength(path)).toBeCloseTo(400 + 60 * Math.PI, 2)
  })
  it('round other shapes is their hull', () =>
    expect(pathLength(hullPath([pathOf('M0 0L10 0L10 10L0 10Z'), pathOf('M30 0L40 0L40 10L30 10Z')]))).toBeCloseTo(
      100,
      0,
    ))
})
