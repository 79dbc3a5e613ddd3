import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  compose,
  ellipsePath,
  IDENTITY,
  invert,
  type Matrix,
  type Path,
  pathLength,
  pathSpan,
  polygonPath,
  roundedRectanglePath,
  svgPathData,
  transformPoint,
} from '.'

const share = fc.double({ min: -2, max: 2, noNaN: true })
const size = fc.double({ min: 1, max: 500, noNaN: true })
const anyOutline: fc.Arbitrary<Path> = fc.oneof(
  fc.tuple(size, size).map(([a, b]) => ellipsePath(a, b)),
  fc.tuple(size, size, size).map(([a, b, r]) => roundedRectanglePath(a, b, r)),
  fc
    .array(fc.record({ x: size, y: size }), { minLength: 3, maxLength: 9 })
    .map(polygonPath)
    .filter((path) => pathLength(path) > 1),
)

describe('outlines', () => {
  it('measure a circle as 2πr', () => {
    expect(pathLength(ellipsePath(100, 100)) / (200 * Math.PI)).toBeCloseTo(1, 5)
  })
  it('measure an ellipse as Ramanujan (1914) does', () => {
    const a = 300
    const b = 120
    const h = ((a - b) / (a + b)) ** 2
    const circumference = Math.PI * (a + b) * (1 + (3 * h) / (10 + Math.sqrt(4 - 3 * h)))
    expect(pathLength(ellipsePath(a, b)) / circumference).toBeCloseTo(1, 4)
  })
  it('measure a rounded rectangle as its sides and one circle', () => {
    expect(pathLength(roundedRectanglePath(200, 100, 20))).toBeCloseTo(2 * (160 + 60) + 40 * Math.PI, 2)
  })
  it('are written as SVG path data', () => {
    expect(svgPathData(roundedRectanglePath(20, 10, 0))).toBe('M0 -5L10 -5L10 5L-10 5L-10 -5Z')
  })
})

describe('spans', () => {
  it('are as long as the share they take, wherever they lie', () => {
    fc.assert(
      fc.property(anyOutline, share, fc.double({ min: 0, max: 1, noNaN: true }), share, (path, start, part, offset) => {
        const total = pathLength(path)
        expect(pathLength(pathSpan(path, start, start + part, offset)) / total).toBeCloseTo(part, 4)
      }),
    )
  })
  it('look the same a whole length further on', () => {
    fc.assert(
      fc.property(anyOutline, share, fc.double({ min: 0.01, max: 0.99, noNaN: true }), (path, start, part) => {
        const numbers = (p: Path) => p.flat().filter((x): x is number => typeof x === 'number')
        const here = numbers(pathSpan(path, start, start + part))
        const there = numbers(pathSpan(path, start + 1, start + part + 1))
        fc.pre(here.length === there.length)
        for (const [i, x] of here.entries()) expect(there[i]).toBeCloseTo(x, 4)
      }),
    )
  })
  it('run across the start of a closed outline in one piece', () => {
    const span = pathSpan(ellipsePath(10, 10), 0.9, 1.1)
    expect(span.filter(([letter]) => letter === 'M')).toHaveLength(1)
    expect(span[0]?.slice(1).map((x) => Math.round(Number(x)))).toEqual([-6, -8])
  })
  it('go on from the other end of an open path', () => {
    const line: Path = [
      ['M', 0, 0],
      ['L', 10, 0],
    ]
    expect(pathSpan(line, 0.75, 1.25).map(([letter, x]) => `${letter}${Number(Number(x).toFixed(6))}`)).toEqual([
      'M7.5',
      'L10',
      'M0',
      'L2.5',
    ])
  })
  it('are everything from a whole length up, and nothing where they end before they start', () => {
    const circle = ellipsePath(10, 10)
    expect(pathSpan(circle, 0.3, 1.3)).toBe(circle)
    expect(pathSpan(circle, 0.5, 0.5)).toEqual([])
    expect(pathSpan(circle, 0.5, 0.4)).toEqual([])
  })
})

describe('transforms', () => {
  const matrix = fc
    .tuple(share, share, share, share, size, size)
    .map(([a, b, c, d, e, f]): Matrix => [3 + a / 2, b / 2, c / 2, 3 + d / 2, e, f])
  it('undo with their inverse', () => {
    fc.assert(
      fc.property(matrix, share, share, (m, x, y) => {
        const back = invert(m)
        expect(back).not.toBeNull()
        const there = transformPoint(compose(back ?? IDENTITY, m), { x, y })
        expect(there.x).toBeCloseTo(x, 5)
        expect(there.y).toBeCloseTo(y, 5)
      }),
    )
  })
  it('have none where they flatten the plane', () => expect(invert([1, 2, 2, 4, 0, 0])).toBeNull())
})
