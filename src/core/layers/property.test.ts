import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MAX_NUMBER } from '../bounds'
import { clampToRange, defaultValues, equivalenceOf, LAYER_KINDS, layerKind, movingProperty, type Property } from '.'

const properties = LAYER_KINDS.flatMap((kind) =>
  Object.entries(kind.properties).map(([name, property]) => [kind.kind, name, property] as const),
)
const ellipse = layerKind('ellipse')
const named = (name: string): Property => {
  const property = ellipse.properties[name]
  if (!property) throw new Error(`an ellipse has no ${name}`)
  return property
}

describe('properties', () => {
  it.each(properties)('of %s: %s starts inside its own range', (_, __, property) => {
    expect(clampToRange(property, property.default)).toEqual(property.default)
  })
  it.each(properties.filter(([, , property]) => property.type === 'number'))(
    'of %s: %s keeps any number in its range, and one that is in it as it is',
    (_, __, property) => {
      if (property.type !== 'number') return
      const { min = -MAX_NUMBER, max = MAX_NUMBER, whole } = property
      fc.assert(
        fc.property(fc.double(), (wild) => {
          const kept = clampToRange(property, wild) as number
          expect(kept).toBeGreaterThanOrEqual(min)
          expect(kept).toBeLessThanOrEqual(max)
          expect(Object.is(kept, -0)).toBe(false)
          if (whole) expect(Number.isInteger(kept)).toBe(true)
          expect(clampToRange(property, kept)).toBe(kept)
        }),
        { numRuns: 40 },
      )
    },
  )
  it('say which values look the same', () => {
    const values = { ...defaultValues(ellipse.properties), width: 80, height: 50 }
    expect(equivalenceOf(named('rotation'), values)).toBe(180)
    expect(equivalenceOf(named('rotation'), { ...values, pivotX: 3 })).toBe(360)
    expect(equivalenceOf(named('dashOffset'), { ...values, dash: [12, 8] })).toBe(20)
    expect(equivalenceOf(named('dashOffset'), { ...values, dash: [12, 8, 4] })).toBe(48)
    expect(equivalenceOf(named('dashOffset'), values)).toBeUndefined()
    expect(equivalenceOf(named('spanStart'), values)).toBe(1)
    expect(equivalenceOf(named('x'), values)).toBeUndefined()
    expect(equivalenceOf(named('fill'), values)).toBeUndefined()
  })
  it('mix and measure numbers as numbers, colours as colours', () => {
    const x = movingProperty(named('x'), {})
    expect([x.mix(10, 20, 0.25), x.distance(10, 4)]).toEqual([12.5, -6])
    const fill = movingProperty(named('fill'), {})
    expect(fill.distance('#000000', '#ffffff')).toBeCloseTo(1, 5)
    expect(fill.distance('white', '#fff')).toBe(0)
    expect(fill.mix('#f6b84b', '#123a4c', 0)).toBe('#f6b84b')
    expect(fill.threshold).toBeLessThan(fill.distance('#000000', '#030303'))
  })
})
