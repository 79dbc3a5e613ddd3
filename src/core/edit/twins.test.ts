import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { findLayer, type Loop } from '../document'
import { evaluate, valuesAt } from '../evaluate'
import { quay } from '../testing/quay'
import { begunLoop, newLoop, twinLayers } from '.'

const clock = { rate: { num: 25, den: 1 }, length: 50 }
const begun = (start: string): Loop =>
  begunLoop({ name: 'x', kind: 'loader', width: 480, height: 480, background: null, ...clock }, start)
/** The drawing of one layer alone. */
const seenOf = (loop: Loop, id: string, frame: number) => {
  const layer = findLayer(loop, id)
  const { nodes } = evaluate({ ...loop, layers: layer ? [layer] : [] }, frame)
  return JSON.stringify(nodes).replaceAll(/"layerId":"[^"]*"/g, '')
}

describe('a twin', () => {
  const loop = begun('arc')
  const [, arc] = loop.layers
  const id = arc?.id ?? ''
  it('lies in front of its layer, under a name of its own, and leaves that as it is', () => {
    const { loop: made, copies } = twinLayers(loop, [id], { later: 5 })
    expect(made.layers.map(({ name }) => name)).toEqual(['Track', 'Arc', 'Arc 2'])
    expect(made.layers[1]).toBe(arc)
    expect(made.layers[2]?.id).toBe(copies[0])
  })
  it('shows later what its layer showed', () => {
    const { loop: made, copies } = twinLayers(loop, [id], { later: 5 })
    for (const frame of [0, 3, 20, 49]) {
      const [late, then] = [findLayer(made, copies[0] ?? ''), findLayer(made, id)].map((layer, n) =>
        layer ? valuesAt(layer, frame - (n === 0 ? 0 : 5), 50) : {},
      )
      // A motion that carries on is a whole number of rounds ahead.
      for (const name of ['spanStart', 'spanEnd', 'rotation']) {
        const round = name === 'rotation' ? 360 : 1
        const off = (Number(late?.[name]) - Number(then?.[name])) / round
        expect(Math.abs(off - Math.round(off)), `${name} at ${frame}`).toBeLessThan(1e-9)
      }
    }
  })
  it('comes home whatever it is, where its layer does', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('arc', 'dots', 'belt', 'gauge', 'swings'),
        fc.oneof(
          fc.record({ later: fc.integer({ min: -60, max: 60 }) }),
          fc.record({ faster: fc.integer({ min: 1, max: 3 }) }),
          fc.constant({ backwards: true } as const),
          fc.record({ frozenAt: fc.integer({ min: 0, max: 49 }) }),
        ),
        (start, how) => {
          const whole = begun(start)
          const { loop: made } = twinLayers(
            whole,
            whole.layers.map((layer) => layer.id),
            how,
          )
          for (const report of checkMotions(made)) expect(report.home, `${report.layer.name} ${report.name}`).toBe(true)
        },
      ),
      { numRuns: 40 },
    )
  })
  it('frozen is as its layer is at the frame, and stands', () => {
    const { loop: made, copies } = twinLayers(loop, [id], { frozenAt: 17 })
    const [twin = ''] = copies
    expect(seenOf(made, twin, 0)).toBe(seenOf(made, id, 17))
    expect(seenOf(made, twin, 31)).toBe(seenOf(made, twin, 0))
  })
  it('backwards is at each frame where its layer is as long before the seam', () => {
    const swings = begun('swings')
    const own = swings.layers[0]?.id ?? ''
    const twins = twinLayers(swings, [own], { backwards: true })
    for (const frame of [1, 7, 30])
      expect(Number(valuesAt(findLayer(twins.loop, twins.copies[0] ?? '') as never, frame, 50).rotation)).toBeCloseTo(
        Number(valuesAt(findLayer(swings, own) as never, -frame, 50).rotation),
      )
  })
  it('of nothing is nothing', () => {
    const empty = newLoop({ name: 'x', kind: 'loader', width: 8, height: 8, background: null, ...clock })
    expect(twinLayers(empty, ['none'], { later: 1 })).toEqual({ loop: empty, copies: [] })
    expect(twinLayers(quay, [], { later: 1 }).loop).toEqual(quay)
  })
})
