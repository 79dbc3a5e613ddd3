import { describe, expect, it } from 'vitest'
import { fraction } from '../clock'
import type { Layer, Loop } from '../document'
import { evaluate } from '../evaluate'
import { sheet } from '../testing/drums'
import { applyFit, checkMotions, fillWith, fitRows } from '.'

describe('a fit', () => {
  it('lists every motion with its period and fold', () =>
    expect(fitRows(sheet).map(({ layer, frames, fold, cycles }) => [layer, frames, fold, cycles])).toEqual([
      ['drum', 30, 3, 2],
      ['wheel', 60, 4, 1],
    ]))
  it('has what trembles and what happens in it, and gives them whole counts', () => {
    const [drum, ...others] = sheet.layers as [Layer, ...Layer[]]
    const shaking: Layer = {
      ...drum,
      trembles: { x: { amount: 4, detail: 3, cycles: 2, seed: 1, phase: 0 } },
      events: { opacity: { value: 0.2, frames: 4, at: [0.5], cycles: 3 } },
    }
    const loop = { ...sheet, layers: [shaking, ...others] }
    const rows = fitRows(loop).slice(2)
    expect(rows.map(({ what, name, frames, fold, cycles }) => [what, name, frames, fold, cycles])).toEqual([
      ['tremble', 'x', 30, 1, 2],
      ['event', 'opacity', 20, 1, 3],
    ])
    const wanted = fitRows(loop).map((row) => ({ ...row, cycles: row.what === 'event' ? 5 : row.cycles }))
    const [fitted] = applyFit(loop, 120, wanted).layers
    expect(fitted?.trembles?.x?.cycles).toBe(2)
    expect(fitted?.events?.opacity?.cycles).toBe(5)
    // Left out of a fit, they keep their pace.
    expect(applyFit(loop, 120, []).layers[0]?.trembles?.x?.cycles).toBe(4)
  })
  it('applied comes home, in parts of a turn too', () => {
    const fitted = applyFit(sheet, 20, [
      { layerId: 'drum', name: 'rotation', cycles: 2 / 3 },
      { layerId: 'wheel', name: 'rotation', cycles: 0.25 },
    ])
    expect(fitted.length).toBe(20)
    expect(checkMotions(fitted).map(({ home, goesOn }) => home && goesOn)).toEqual([true, true])
    expect(evaluate(fitted, 7).nodes[1]?.transform[1]).toBeCloseTo(Math.sin((2 * Math.PI * 7) / 80))
  })
})

describe('filling a duration', () => {
  it('repeats a loop of five frames for ten seconds', () => {
    const small = { ...sheet, length: 5, rate: fraction(24) }
    const [first] = fillWith(small, fraction(10))
    expect(first).toMatchObject({ repeats: 48, speed: 1 })
    expect(first?.loop?.length).toBe(240)
    expect(checkMotions(first?.loop as Loop).every(({ home }) => home)).toBe(true)
  })
  it('offers lengths that divide it, and what they cost', () => {
    const ways = fillWith({ ...sheet, length: 50 }, fraction(11))
    expect(ways.map(({ repeats, length }) => [repeats, length]).slice(0, 3)).toEqual([
      [5, 50],
      [6, 50],
      [5, 55],
    ])
    for (const { loop, repeats, length } of ways) expect(loop?.length).toBe(repeats * length)
  })
})
