import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { colourDistance, isColour, mixColours, toHex } from '.'

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`)

describe('colours', () => {
  it('mix to their own ends, and come back to hex as they were', () => {
    fc.assert(
      fc.property(hex, hex, (a, b) => {
        expect(mixColours(a, b, 0)).toBe(a)
        expect(mixColours(a, b, 1)).toBe(b)
        expect(toHex(a)).toBe(a)
      }),
    )
  })
  it('mix evenly in OKLab: the middle is as far from one end as from the other', () => {
    fc.assert(
      fc.property(hex, hex, (a, b) => {
        const middle = mixColours(a, b, 0.5)
        expect(Math.abs(colourDistance(a, middle) - colourDistance(middle, b))).toBeLessThan(0.05)
      }),
    )
  })
  it('fade without darkening: half-way to transparent keeps its colour', () => {
    expect(toHex(mixColours('#f6b84b', 'transparent', 0.5))).toBe('#f6b84b80')
  })
  it('are those of CSS Color 4', () => {
    for (const good of ['#f00', 'rgb(1 2 3 / 0.5)', 'oklch(0.7 0.1 200)', 'rebeccapurple', 'transparent'])
      expect(isColour(good)).toBe(true)
    for (const bad of ['', 'sea green', 'url(x)', '#12', 'color(', 'a'.repeat(200)]) expect(isColour(bad)).toBe(false)
    expect(colourDistance('black', 'white')).toBeCloseTo(1, 3)
  })
})
