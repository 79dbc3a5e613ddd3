import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { curveAt } from '../../effects'
import { layerKind } from '../registry'
import { curveOf, curveType } from './curve'

const property = layerKind('curves').properties.all as never
const schema = curveType.schema(property)
const mixing = curveType.mixing
if (!mixing) throw new Error('curves mix')

const anyCurve = fc
  .uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 16 })
  .chain((places) =>
    fc
      .array(fc.integer({ min: 0, max: 100 }), { minLength: places.length, maxLength: places.length })
      .map((heights) => [...places].sort((a, b) => a - b).flatMap((x, i) => [x / 100, (heights[i] as number) / 100])),
  )

describe('a curve as a value', () => {
  it.each([
    [[0, 0, 1, 1], true],
    [[0, 0, 0.5, 0.2, 1, 1], true],
    [[0.5, 0.5], false],
    [[0, 0, 1], false],
    [[1, 0, 0, 1], false],
    [[0, 0, 0, 1], false],
    [[0, 0, 1, 1.2], false],
  ])('is stored where its points stand each right of the one before: %j', (value, sound) => {
    expect(schema.safeParse(value).success).toBe(sound)
  })
  it('mixed with another can be stored, at the way’s ends and beyond, and lies between the two at its middle', () => {
    fc.assert(
      fc.property(anyCurve, anyCurve, fc.double({ min: -0.5, max: 1.5, noNaN: true }), (a, b, t) => {
        expect(schema.safeParse(mixing.mix(a, b, t)).success).toBe(true)
        const middle = curveOf(mixing.mix(a, b, 0.5))
        for (const [x] of curveOf(a)) {
          const between = (curveAt(curveOf(a), x) + curveAt(curveOf(b), x)) / 2
          if (middle.some(([place]) => place === x)) expect(curveAt(middle, x)).toBeCloseTo(between, 6)
        }
        expect(mixing.mix(a, b, 0)).toEqual(a)
      }),
    )
  })
  it('is as far from another as they differ at most, and trembles within what can be stored', () => {
    expect(mixing.distance([0, 0, 1, 1], [0, 0, 1, 1])).toBe(0)
    expect(mixing.distance([0, 0, 1, 1], [0, 1, 1, 0])).toBeCloseTo(1, 6)
    fc.assert(
      fc.property(anyCurve, fc.double({ min: -3, max: 3, noNaN: true }), (value, by) => {
        expect(schema.safeParse(mixing.shake(value, by)).success).toBe(true)
        expect(schema.safeParse(mixing.start(property, value).to).success).toBe(true)
      }),
    )
  })
})
