import { describe, expect, it } from 'vitest'
import { changeLayer, insertLayers } from '../document'
import { addModel, newLayer } from '../edit'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { testModel } from '../testing/test-model'
import { closesAfter, modelMotion, motionsAsCsv, motionsAsJson } from '.'

const buoy = {
  ...newLayer('ellipse', 'Buoy, red', {}, 'buoy'),
  motions: {
    rotation: evenly(360),
    x: {
      keys: [
        { at: 0, value: 1, ease: 'ease-in-out' as const },
        { at: 0.5, value: 5, ease: 'linear' as const },
      ],
      after: 'repeat' as const,
      period: { cycles: 2 },
      phase: 0,
    },
  },
}
const loop = insertLayers({ ...quay, length: 10 }, [buoy])

describe('motions as data', () => {
  it('have their keys and eases, and their values by frame, the closing one too', () => {
    const data = JSON.parse(motionsAsJson(loop))
    expect(data).toMatchObject({ format: 'cyclon-motions', length: 10, rate: { num: 25, den: 1 }, seconds: 0.4 })
    expect(data.note).toBe('Closes after 0.4 s (10 frames at 25/1): time 0.4 is time 0 again.')
    const [turn, x] = ['rotation', 'x'].map((name) =>
      data.motions.find((each: { property: string }) => each.property === name),
    )
    expect(turn.values).toEqual(Array.from({ length: 11 }, (_, n) => 36 * n))
    expect([turn.unit, turn.home, x.keys[0].ease, x.period]).toEqual(['°', true, 'ease-in-out', { cycles: 2 }])
    expect(x.values[5]).toBe(x.values[0])
  })
  it('are a table that nobody takes for formulas', () => {
    const named = changeLayer(loop, 'buoy', (layer) => ({ ...layer, name: '=1+1, "wet"' }))
    const [head, first] = motionsAsCsv(named).split('\r\n')
    expect(head).toContain(`"'=1+1, ""wet"": `)
    expect(first?.startsWith('0,0,')).toBe(true)
    expect(motionsAsCsv(loop).trim().split('\r\n')).toHaveLength(12)
  })
  it('say what does not close', () => {
    const open = changeLayer(loop, 'buoy', (layer) => ({ ...layer, motions: { x: { ...evenly(7) } } }))
    expect(closesAfter(open)).toBe('Does not close after 0.4 s: Buoy, red, x.')
  })
  it('of a model go by steps of at most a quarter turn, however fast it turns', () => {
    const made = addModel({ ...quay, length: 10 }, testModel())
    const fast = changeLayer(made.loop, made.id, (layer) => ({ ...layer, motions: { turn: evenly(360, 5) } }))
    const motion = modelMotion(fast, made.id)
    expect(motion?.times).toHaveLength(21)
    expect(motion?.times.at(-1)).toBeCloseTo(0.4, 9)
    for (const [k, value] of (motion?.rotations.at(-1) ?? []).entries())
      expect(value).toBeCloseTo(motion?.rotations[0]?.[k] as number, 6)
    expect(modelMotion(loop, 'buoy')).toBeNull()
  })
})
