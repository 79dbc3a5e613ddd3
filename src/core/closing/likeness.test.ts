import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import type { Layer, Loop } from '../document'
import { newLayer } from '../edit'
import { evaluate, evaluateUnreduced } from '../evaluate'
import { greatestDifference } from '../image'
import { evenly } from '../motion'
import { anyLoop } from '../testing/arbitrary'
import { quay } from '../testing/quay'
import { checkMotions, motionReport, shorterLoops } from '.'
import { showsTheSame } from './likeness'

/** A buoy at a place of a ring, that goes round once per loop. */
const buoy = (degrees: number, values: object = {}): Layer => ({
  ...newLayer('ellipse', `Buoy ${degrees}`, { x: 60, y: 60, pivotX: 0, pivotY: 40, width: 12, height: 12, ...values }),
  id: `buoy-${degrees}`,
  motions: {
    rotation: {
      ...evenly(360),
      keys: [
        { at: 0, value: degrees, ease: 'linear' },
        { at: 1, value: degrees + 360, ease: 'linear' },
      ],
    },
  },
})
const ring = (layers: Layer[]): Loop => ({ ...quay, width: 120, height: 120, length: 48, layers })
const four = ring([0, 90, 180, 270].map((degrees) => buoy(degrees)))
const picture = (loop: Loop, frame: number) => renderInNode(evaluate(loop, frame), 120, 120)

describe('layers that stand in for one another', () => {
  it('make a shorter loop, which closes and shows the same', () => {
    const [found] = shorterLoops(four)
    expect(found).toMatchObject({ times: 4, length: 12, exchanged: true })
    const shorter = found?.loop as Loop
    const reports = checkMotions(shorter)
    expect(reports.every(({ home, exchanged, goesOn }) => home && exchanged && !goesOn)).toBe(true)
    expect(Math.abs(reports[0]?.gap ?? 0)).toBe(90)
    for (let n = 0; n < 48; n++)
      expect(greatestDifference(picture(shorter, n), picture(four, n)), `${n}`).toBeLessThan(3)
  })
  it.each([
    ['two of them have another colour', { fill: '#ffffff' }, [2]],
    ['two of them are larger', { width: 13 }, [2]],
    ['two of them lie on others', { width: 200 }, []],
  ] as const)('do so less often where %s', (_why, values, times) => {
    const other = ring([buoy(0), buoy(90, values), buoy(180), buoy(270, values)])
    const found = shorterLoops(other).filter(({ exchanged }) => exchanged)
    expect(found.map((each) => each.times)).toEqual(times)
  })
  it('are not looked for where one moves alone, and its fault stays a fault', () => {
    const alone = { ...ring([buoy(0)]), length: 12 }
    const broken: Loop = {
      ...alone,
      layers: alone.layers.map((layer) => ({
        ...layer,
        motions: { rotation: { ...layer.motions.rotation, period: { frames: 48 } } },
      })) as Layer[],
    }
    expect(motionReport(broken, 'buoy-0', 'rotation')).toMatchObject({ home: false, exchanged: false })
    expect(motionReport(broken, 'buoy-0', 'x')).toBeUndefined()
  })
  it('are told from layers that only trade their outlines: a group as a whole counts', () => {
    const faint = (id: string, held: Layer[]): Layer => ({
      ...newLayer('group', id, { opacity: 0.5 }),
      id,
      layers: held,
    })
    const grouped = ring([faint('one', [buoy(0)]), faint('two', [buoy(180)])])
    expect(shorterLoops(grouped)[0]).toMatchObject({ times: 2, exchanged: true })
    const uneven = ring([faint('one', [buoy(0)]), buoy(180)])
    expect(shorterLoops(uneven)).toEqual([])
  })
})

describe('two pictures that are said to be the same', () => {
  it('are the same in pixels, on random documents with layers in another order', () => {
    let alike = 0
    fc.assert(
      fc.property(anyLoop, fc.nat(60), (loop, frame) => {
        const turned = { ...loop, layers: [...loop.layers].reverse() }
        const a = evaluate(loop, frame)
        const b = evaluate(turned, frame)
        if (!showsTheSame(a, b)) return
        alike++
        expect(greatestDifference(renderInNode(a, 160, 160), renderInNode(b, 160, 160))).toBeLessThanOrEqual(3)
      }),
      { numRuns: 120 },
    )
    expect(alike).toBeGreaterThan(10)
  })
  it('are so at N + x and x where every motion goes on', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 48, noNaN: true }), (x) => {
        expect(showsTheSame(evaluateUnreduced(four, 48 + x), evaluateUnreduced(four, x))).toBe(true)
        expect(showsTheSame(evaluateUnreduced(four, x), evaluateUnreduced(four, x + 3))).toBe(false)
      }),
      { numRuns: 40 },
    )
  })
})
