import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction, toNumber } from '../clock'
import { checkMotions } from '../closing'
import { formatLoop, type Loop, parseLoop } from '../document'
import { begunLoop, paceOf, secondsOf, sheetOf } from '.'
import { FIGURES } from './starts/figures'

const loops: fc.Arbitrary<Loop> = fc
  .record({
    start: fc.constantFrom(...FIGURES.map(({ name }) => name)),
    width: fc.integer({ min: 20, max: 1920 }),
    height: fc.integer({ min: 20, max: 1080 }),
    rate: fc.constantFrom(fraction(24), fraction(25), fraction(30), fraction(60)),
    length: fc.integer({ min: 12, max: 200 }),
  })
  .map(({ start, ...brief }) => begunLoop({ name: start, kind: 'loader', background: '#0a2231', ...brief }, start))

describe('a sheet of loops', () => {
  it('has each in a place of its own, within the frame, and all come home', () => {
    fc.assert(
      fc.property(fc.array(loops, { minLength: 1, maxLength: 7 }), (held) => {
        const { loop, worst } = sheetOf(held, 'A sheet')
        expect(loop.layers).toHaveLength(held.length)
        for (const report of checkMotions(loop)) expect(report.home, `${report.layer.name} ${report.name}`).toBe(true)
        expect(parseLoop(formatLoop(loop)).layers).toEqual(loop.layers)
        const boxes = loop.layers.map(({ values }) => {
          const [x, y, w, h] = [values.x, values.y, values.width, values.height].map(Number) as [
            number,
            number,
            number,
            number,
          ]
          return [x - w / 2, y - h / 2, x + w / 2, y + h / 2] as const
        })
        for (const [i, [x0, y0, x1, y1]] of boxes.entries()) {
          expect(x0 > -0.01 && y0 > -0.01 && x1 < loop.width + 0.01 && y1 < loop.height + 0.01).toBe(true)
          for (const [u0, v0, u1, v1] of boxes.slice(i + 1))
            expect(x1 <= u0 + 0.01 || u1 <= x0 + 0.01 || y1 <= v0 + 0.01 || v1 <= y0 + 0.01).toBe(true)
        }
        // As far from its own pace as it is said.
        for (const [n, inner] of held.entries()) {
          const time = loop.layers[n]?.motions.time
          const cycles = time && 'cycles' in time.period ? time.period.cycles : 0
          const pace = secondsOf(inner) / (loop.length / toNumber(loop.rate) / cycles)
          expect(Math.abs(1 / pace - 1)).toBeLessThan(worst + 1e-9)
        }
      }),
      { numRuns: 25 },
    )
  })
  it('lasts no longer than it has to for all to keep their pace', () => {
    const one = (length: number) =>
      begunLoop(
        { name: 'x', kind: 'loader', width: 100, height: 100, background: null, rate: fraction(25), length },
        'arc',
      )
    expect(sheetOf([one(20), one(30)], 's')).toMatchObject({ worst: 0, loop: { length: 60 } })
    expect(sheetOf([one(50)], 's').loop.length).toBe(50)
    // 299 would be all but true.
    expect(sheetOf([one(50), one(100), one(30)], 's')).toMatchObject({ worst: 0, loop: { length: 300 } })
    expect(sheetOf([one(97), one(101)], 's').loop.length).toBeLessThan(97 * 101)
    const { loop } = sheetOf([one(20), one(30)], 's')
    expect(loop.layers.map(({ motions }) => motions.time?.period)).toEqual([{ cycles: 3 }, { cycles: 2 }])
    expect(paceOf(loop, 0.8)).toBeCloseTo(1, 12)
  })
  it('is none of none', () => {
    expect(() => sheetOf([], 'A sheet')).toThrow('one loop at least')
  })
})
