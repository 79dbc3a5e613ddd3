import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fraction } from '../clock'
import { begunLoop, newLayer, setEvent, takeMove } from '../edit'
import { FIGURES } from '../edit/starts/figures'
import { quay } from '../testing/quay'
import { propertyAt, roundTheLoop } from '.'

const buoy = newLayer('ellipse', 'Buoy', { x: 100, y: 100, width: 40, height: 40, opacity: 0.8 })
const moved = (name: string, length: number) => {
  const [layer = buoy] = takeMove({ ...quay, length, layers: [buoy] }, [buoy.id], { name }).layers
  return layer
}

describe('a property round the loop', () => {
  it('is nothing to draw where it rests', () => {
    for (const name of ['x', 'opacity', 'fill', 'blend']) expect(roundTheLoop(buoy, name, 60)).toBeNull()
    expect(roundTheLoop(moved('bob', 60), 'x', 60)).toBeNull()
  })
  it('has the seam in its middle, and ends as it begins where it comes home', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 12, max: 400 }),
        fc.constantFrom('bob', 'bounce', 'breathe', 'swing'),
        (length, name) => {
          const layer = moved(name, length)
          for (const property of Object.keys(layer.motions)) {
            const values = roundTheLoop(layer, property, length) as readonly number[]
            expect(values).toHaveLength(25)
            expect(Math.min(...values)).toBe(0)
            expect(Math.max(...values)).toBe(1)
            expect(Math.abs((values[0] as number) - (values[24] as number))).toBeLessThan(1e-3)
            // Of the least and the most the middle is where the seam is.
            const all = Array.from({ length: 25 }, (_, i) =>
              Number(propertyAt(layer, property, (i / 24 - 0.5) * length, length)),
            )
            const least = Math.min(...all)
            const most = Math.max(...all)
            expect(values[12]).toBeCloseTo((Number(propertyAt(layer, property, 0, length)) - least) / (most - least), 3)
          }
        },
      ),
    )
  })
  it('goes on where it carries on', () => {
    const values = roundTheLoop(moved('turn', 60), 'rotation', 60) as readonly number[]
    for (const [i, value] of values.entries()) expect(value).toBeCloseTo(i / 24, 3)
  })
  it('of a colour says where it is another; of an event, when it is so', () => {
    const blinking = setEvent(buoy, 'fill', { value: '#ffffff', frames: 15, at: [0.5], cycles: 1 })
    const colours = roundTheLoop(blinking, 'fill', 60) as readonly number[]
    expect(new Set(colours)).toEqual(new Set([0, 1]))
    const gone = roundTheLoop(moved('blink', 12), 'opacity', 12) as readonly number[]
    expect(gone.filter((value) => value === 0).length).toBeGreaterThan(0)
  })
  it('is there for all that moves in what loops begin with', () => {
    for (const { name } of FIGURES) {
      const loop = begunLoop(
        { name, kind: 'loader', width: 200, height: 200, background: null, rate: fraction(30), length: 60 },
        name,
      )
      for (const layer of loop.layers)
        for (const property of Object.keys(layer.motions))
          expect(roundTheLoop(layer, property, 60), `${name} ${property}`).not.toBeNull()
    }
  })
})
