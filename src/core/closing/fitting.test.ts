import { describe, expect, it } from 'vitest'
import { fraction } from '../clock'
import type { Layer, Loop } from '../document'
import { evaluate } from '../evaluate'
import { exactLength } from '../fit'
import { evenly } from '../motion'
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
  it('wants its own pace of what plays, where that runs as often as comes nearest to it, and what is there of all else', () => {
    const [drum] = sheet.layers as [Layer]
    const clip = (id: string, count: number) => ({ kind: 'clip', id, name: id, delaysMs: new Array(count).fill(40) })
    const plays = (id: string, cycles: number): Layer => ({
      ...drum,
      id: `${id} ${cycles}`,
      kind: 'clip',
      values: { clip: id },
      motions: { time: evenly(1, cycles) },
    })
    const loop = {
      ...sheet,
      rate: fraction(25),
      length: 56,
      media: [clip('awning', 56), clip('lamp', 72)] as unknown as Loop['media'],
      layers: [plays('awning', 1), plays('lamp', 1), plays('lamp', 2)],
    }
    const rows = fitRows(loop)
    // Twice as often as comes nearest is meant so.
    expect(rows.map(({ frames, cycles }) => [frames, cycles])).toEqual([
      [56, 1],
      [72, 1],
      [28, 2],
    ])
    const wanted = rows.slice(0, 2).map(({ frames }) => ({ seconds: fraction(frames), fold: 1 }))
    expect(exactLength(wanted, fraction(1), 1e6)).toBe(504)
    const fitted = applyFit(loop, 504, [
      { layerId: 'awning 1', name: 'time', cycles: 9 },
      { layerId: 'lamp 1', name: 'time', cycles: 7 },
    ])
    expect(
      fitRows(fitted)
        .slice(0, 2)
        .map(({ frames }) => frames),
    ).toEqual([56, 72])
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
