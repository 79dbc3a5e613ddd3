import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction } from '../../clock'
import { checkMotions } from '../../closing'
import { formatLoop, type Loop, parseLoop } from '../../document'
import { evaluate } from '../../evaluate'
import { begunLoop, begunWith, NO_CHANGE, STARTS } from '..'
import { FIGURES } from './figures'

const briefs = fc.record({
  name: fc.constant('Quay lamp'),
  kind: fc.constant('loader' as const),
  width: fc.integer({ min: 16, max: 2000 }),
  height: fc.integer({ min: 16, max: 2000 }),
  background: fc.constantFrom(null, '#0a2231'),
  rate: fc.constantFrom(fraction(12), fraction(25), fraction(30000, 1001), fraction(60)),
  length: fc.integer({ min: 12, max: 400 }),
})
const plain = {
  name: 'Quay lamp',
  kind: 'loader',
  width: 480,
  height: 300,
  background: null,
  rate: fraction(30),
} as const

describe('what a loop can begin with', () => {
  for (const { name, label } of FIGURES)
    it(`${label.toLowerCase()}: comes home and can be stored, in every size, rate and length`, () => {
      fc.assert(
        fc.property(briefs, (brief) => {
          const loop: Loop = begunLoop(brief, name)
          expect(loop.layers.length).toBeGreaterThan(0)
          const reports = checkMotions(loop)
          expect(reports.length).toBeGreaterThan(0)
          for (const report of reports) expect(report.home, `${report.layer.name}, ${report.name}`).toBe(true)
          expect(parseLoop(formatLoop(loop)).layers).toEqual(loop.layers)
        }),
        { numRuns: 25 },
      )
    })
  it('moves, and what looks the same after a loop does not merely stand still', () => {
    for (const { name } of FIGURES) {
      const loop = begunLoop({ ...plain, length: 61 }, name)
      const at = (frame: number) => JSON.stringify(evaluate(loop, frame).nodes)
      expect(at(7), name).not.toBe(at(0))
      expect(at(20), name).not.toBe(at(7))
    }
  })
  it('is an empty frame for a loader where nothing is chosen', () => {
    expect(STARTS.loader?.[0]?.name).toBe('empty')
    const loop = begunLoop({ ...plain, length: 60 })
    expect([loop.layers, loop.palette]).toEqual([[], []])
  })
  it('has its colours by name', () => {
    for (const { name } of FIGURES) {
      const loop = begunLoop({ ...plain, length: 60 }, name)
      const known = loop.palette.map(({ name: colour }) => colour)
      const used = [...JSON.stringify(loop.layers).matchAll(/var\(--([\w-]+)\)/g)].map(([, colour]) => colour)
      expect(used.length, name).toBeGreaterThan(0)
      for (const colour of used) expect(known).toContain(colour)
    }
  })
  it('can be a loop of one’s own: in another frame and time, with its cycles, and it still comes home', () => {
    fc.assert(
      fc.property(briefs, fc.constantFrom(...FIGURES.map(({ name }) => name)), (wanted, name) => {
        // In a wider frame the ends of a row may come into sight.
        const brief = { ...wanted, width: plain.width, height: plain.height }
        const own = begunLoop({ ...plain, length: 60 }, name)
        const begun = begunWith({ ...own, variantOf: { id: 'quay', ...NO_CHANGE } }, brief, 'new')
        expect(begun).toMatchObject({ ...brief, id: 'new', palette: own.palette })
        expect(begun.variantOf).toBeUndefined()
        const cycles = (loop: Loop) => checkMotions(loop).map(({ motion }) => motion.period)
        expect(cycles(begun)).toEqual(cycles(own))
        for (const report of checkMotions(begun))
          expect(report.gap).toBeCloseTo(
            checkMotions(own).find(({ layer, name: at }) => layer.id === report.layer.id && at === report.name)?.gap ??
              0,
            6,
          )
        expect(parseLoop(formatLoop(begun)).layers).toEqual(begun.layers)
      }),
      { numRuns: 25 },
    )
  })
})
