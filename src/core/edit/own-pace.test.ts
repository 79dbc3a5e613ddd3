import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction } from '../clock'
import { checkMotions } from '../closing'
import type { Loop } from '../document'
import { evenly } from '../motion'
import { quay } from '../testing/quay'
import { atOwnPace, exactLengths, newLayer, paceOf, placeLoop, secondsOf } from '.'

const wheel = (length: number): Loop => ({
  ...quay,
  id: 'wheel',
  name: 'Wheel',
  rate: fraction(25),
  length,
  layers: [{ ...newLayer('polygon', 'Wheel', { radius: 20 }), motions: { rotation: evenly(360) } }],
})
const pier = (length: number): Loop => ({
  ...quay,
  rate: fraction(25),
  length,
  layers: [{ ...newLayer('polygon', 'Lamp', { corners: 5 }), id: 'lamp', motions: { rotation: evenly(360, 2) } }],
})

describe('lengths at which what is placed keeps its own pace', () => {
  it('are whole frames and whole cycles, the nearest of all', () => {
    expect(exactLengths({ length: 60, rate: fraction(25) }, 24 / 25)).toEqual([
      { length: 48, cycles: 2 },
      { length: 72, cycles: 3 },
      { length: 96, cycles: 4 },
    ])
    expect(exactLengths({ length: 60, rate: fraction(24) }, 1 / 25, 1)).toEqual([{ length: 72, cycles: 75 }])
    expect(exactLengths({ length: 60, rate: fraction(25) }, Math.PI)).toEqual([])
    expect(exactLengths({ length: 60, rate: fraction(25) }, 0)).toEqual([])
  })
  it('keep it exactly, and all comes home', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 90 }), fc.integer({ min: 2, max: 200 }), (inner, outer) => {
        const { loop, layer } = placeLoop(pier(outer), wheel(inner))
        for (const exact of exactLengths(loop, secondsOf(wheel(inner)))) {
          const made = atOwnPace(loop, layer.id, 'time', exact)
          expect(made.loop.length).toBe(exact.length)
          expect(paceOf({ ...made.loop, length: exact.length }, secondsOf(wheel(inner)))).toBeCloseTo(1, 9)
          expect(checkMotions(made.loop).every(({ home }) => home)).toBe(true)
          expect(made.bent).not.toContain(layer.name)
        }
      }),
    )
  })
  it('give a tremble and an event exactly the time that was asked for, too', () => {
    const lamp = newLayer('ellipse', 'Lamp', {}, 'lamp')
    const tremble = { amount: 4, detail: 3, cycles: 2, seed: 1, phase: 0 }
    const event = { value: 0, frames: 2, at: [0.5], cycles: 2 }
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 80 }), fc.integer({ min: 2, max: 200 }), (frames, length) => {
        const loop: Loop = {
          ...pier(length),
          layers: [{ ...lamp, trembles: { x: tremble }, events: { opacity: event } }],
        }
        for (const exact of exactLengths(loop, frames / 25)) {
          const shaken = atOwnPace(loop, 'lamp', 'x', exact, 'tremble').loop
          expect(shaken.length / (shaken.layers[0]?.trembles?.x?.cycles ?? 0)).toBe(frames)
          const blinks = atOwnPace(loop, 'lamp', 'opacity', exact, 'event').loop
          expect(blinks.length / (blinks.layers[0]?.events?.opacity?.cycles ?? 0)).toBe(frames)
        }
      }),
    )
  })
  it('say which others had to bend', () => {
    const { loop, layer } = placeLoop(pier(60), wheel(24))
    expect(atOwnPace(loop, layer.id, 'time', { length: 72, cycles: 3 }).bent).toEqual(['Lamp'])
    expect(atOwnPace(loop, layer.id, 'time', { length: 60, cycles: 2 }).bent).toEqual([])
    expect(atOwnPace(loop, 'nothing', 'time', { length: 48, cycles: 2 }).bent).toEqual([])
  })
})
