import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { checkMotion, checkMotions, type MotionReport } from '../closing'
import type { DisplayList } from '../display'
import { allLayers, changeLayer, type Loop } from '../document'
import { newLayer, newLoop } from '../edit'
import { greatestDifference } from '../image'
import { judgedProperty } from '../layers'
import { anyLoop } from '../testing/arbitrary'
import { evaluate, evaluateUnreduced, propertyAt } from '.'

const anyFrame = fc.oneof(fc.integer({ min: -5, max: 130 }), fc.double({ min: -5, max: 130, noNaN: true }))

/** The pictures drawn with the same numbers, but for what no eye sees. */
const sameNumbers = (a: unknown, b: unknown, slack: number): boolean => {
  if (typeof a === 'number' && typeof b === 'number') return Math.abs(a - b) <= slack
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((x, i) => sameNumbers(x, b[i], slack))
  if (a && b && typeof a === 'object' && typeof b === 'object')
    return Object.keys(a).every((key) => sameNumbers((a as never)[key], (b as never)[key], slack))
  return a === b
}

/** Equal numbers, or, where shapes look alike by symmetry and only the numbers differ, equal pixels. */
function looksTheSame(a: DisplayList, b: DisplayList): boolean {
  if (sameNumbers(a, b, 1e-4)) return true
  const size = { width: Math.min(a.width, 160), height: Math.min(a.height, 160) }
  const pa = renderInNode(a, size.width, size.height)
  const pb = renderInNode(b, size.width, size.height)
  return greatestDifference(pa, pb) <= 24
}

/** The loop with every motion taken out of which a report says what `unwanted` looks for. */
const without = (loop: Loop, unwanted: (report: MotionReport) => boolean): Loop =>
  allLayers(loop).reduce((current, layer) => {
    const kept = Object.entries(layer.motions).filter(([name]) => !unwanted(checkMotion(layer, name, loop.length)))
    return changeLayer(current, layer.id, (each) => ({ ...each, motions: Object.fromEntries(kept) }))
  }, loop)

/** The motions of the loop itself; a loop that is placed in it runs on its own ring. */
const own = (loop: Loop) => checkMotions(loop).filter(({ inside }) => inside === null)

/** A gap under the threshold is no jump, but numbers are compared more closely here. */
const off = ({ gap }: MotionReport) => Math.abs(gap) >= 1e-6

describe('the ring', () => {
  it('gives the same picture at N + x as at x, unreduced, where every motion comes home and goes on as it began', () => {
    fc.assert(
      fc.property(anyLoop, anyFrame, (random, x) => {
        const astray = (report: MotionReport) => off(report) || !report.goesOn
        // Taking one of two joint motions out can leave the other one alone on its way; it then goes too.
        const loop = without(without(random, astray), astray)
        // A row whose ends are seen to leave jumps on the way, but its numbers come home.
        expect(own(loop).every(({ home, ends, goesOn }) => (home || ends) && goesOn)).toBe(true)
        expect(looksTheSame(evaluateUnreduced(loop, x), evaluateUnreduced(loop, loop.length + x))).toBe(true)
      }),
      { numRuns: 1000 },
    )
  })

  it('closes where every motion comes home: the closing frame looks as the first', () => {
    fc.assert(
      fc.property(anyLoop, (random) => {
        const loop = without(without(random, off), off)
        fc.pre(own(loop).every(({ home }) => home))
        expect(looksTheSame(evaluateUnreduced(loop, 0), evaluateUnreduced(loop, loop.length))).toBe(true)
      }),
      { numRuns: 400 },
    )
  })

  it('differs by the reported gap where a motion is reported not to come home', () => {
    let away = 0
    fc.assert(
      fc.property(anyLoop, (loop) => {
        for (const report of own(loop)) {
          if (report.leap !== null || report.ends) continue
          const still = { ...report.layer, trembles: {}, events: {} }
          const at = (frame: number) => propertyAt(still, report.name, frame, loop.length)
          const { distance } = judgedProperty(report.property, report.layer.values)
          const measured = distance(at(0) as never, at(loop.length) as never)
          const multiples = report.equivalence ? (measured - report.gap) / report.equivalence : measured - report.gap
          expect(Math.abs(multiples - Math.round(multiples))).toBeLessThan(1e-6)
          if (!report.equivalence) expect(report.gap).toBe(measured)
          // Beyond its range a value is drawn as its end.
          if (report.home || report.staggered) continue
          away++
          expect(at(loop.length)).not.toEqual(at(0))
        }
      }),
    )
    expect(away).toBeGreaterThanOrEqual(20)
  })

  it('is periodic in n when reduced: any frame modulo N', () => {
    fc.assert(
      fc.property(anyLoop, fc.integer({ min: -300, max: 300 }), (loop, n) => {
        expect(evaluate(loop, n)).toEqual(evaluate(loop, n + loop.length))
      }),
    )
  })

  it('depends on nothing but the loop: twice the same', () => {
    fc.assert(
      fc.property(anyLoop, anyFrame, (loop, n) => {
        expect(evaluate(structuredClone(loop), n)).toEqual(evaluate(loop, n))
      }),
    )
  })
})

const loop = newLoop({
  name: 'Test lamp',
  kind: 'loader',
  width: 200,
  height: 200,
  background: null,
  rate: { num: 24, den: 1 },
  length: 24,
})
const turned = (kind: string, values: object, degrees: number): Loop => ({
  ...loop,
  layers: [
    {
      ...newLayer(kind, kind, { x: 100, y: 100, ...values }),
      motions: {
        rotation: {
          keys: [
            { at: 0, value: 0, ease: 'linear' },
            { at: 1, value: degrees, ease: 'linear' },
          ],
          after: 'accumulate',
          period: { cycles: 1 },
          phase: 0,
        },
      },
    },
  ],
})
const home = (candidate: Loop) => checkMotions(candidate).every((report) => report.home)

describe('symmetry', () => {
  it('lets a six-sided shape come home after a sixth of a turn, and the pixels agree', () => {
    const sixth = turned('polygon', { corners: 6, radius: 80 }, 60)
    expect(home(sixth)).toBe(true)
    expect(
      greatestDifference(renderInNode(evaluateUnreduced(sixth, 0)), renderInNode(evaluateUnreduced(sixth, 24))),
    ).toBeLessThanOrEqual(2)
    expect(home(turned('polygon', { corners: 5, radius: 80 }, 60))).toBe(false)
  })
  it('does not hold for a pivot off the centre, a part of a stroke, or an uneven scale', () => {
    expect(home(turned('polygon', { corners: 6, pivotX: 10 }, 60))).toBe(false)
    expect(home(turned('polygon', { corners: 6, stroke: '#fff', spanEnd: 0.5 }, 60))).toBe(false)
    expect(home(turned('rectangle', { width: 80, height: 80, scaleY: 2 }, 90))).toBe(false)
    expect(home(turned('rectangle', { width: 80, height: 80 }, 90))).toBe(true)
  })
  it('does not hold where another motion breaks it on the way', () => {
    const square = turned('rectangle', { width: 80, height: 80 }, 90)
    const breathing = changeLayer(square, square.layers[0]?.id ?? '', (layer) => ({
      ...layer,
      motions: {
        ...layer.motions,
        width: {
          keys: [
            { at: 0, value: 80, ease: 'linear' },
            { at: 0.5, value: 120, ease: 'linear' },
          ],
          after: 'repeat' as const,
          period: { cycles: 1 },
          phase: 0,
        },
      },
    }))
    expect(home(breathing)).toBe(false)
  })
})

describe('a span whose ends both carry on by a whole length', () => {
  const ends = (start: number, end: number) => ({
    ...loop,
    layers: [
      {
        ...newLayer('ellipse', 'Arc', { stroke: '#fff' }),
        motions: Object.fromEntries(
          [
            ['spanStart', 0, start],
            ['spanEnd', 0.1, 0.1 + end],
          ].map(([name, from, to]) => [
            name,
            {
              keys: [
                { at: 0, value: Number(from), ease: 'ease-in-out' },
                { at: 1, value: Number(to), ease: 'linear' },
              ],
              after: 'accumulate' as const,
              period: { cycles: 1 },
              phase: 0,
            },
          ]),
        ),
      },
    ],
  })
  it('comes home only jointly', () => {
    expect(home(ends(1, 1))).toBe(true)
    expect(home(ends(0, 1))).toBe(false)
    expect(home(ends(1, 2))).toBe(false)
  })
})
