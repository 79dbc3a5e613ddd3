import { describe, expect, it } from 'vitest'
import { checkMotions } from '../closing'
import { newLayer } from '../edit'
import { evaluate } from '../evaluate'
import { noFile, pierOf } from '../testing/media'
import { quay } from '../testing/quay'
import { drawingsOf, formatLoop, type Layer, type Loop, parseLoop, tooMuchToDraw, unopenable } from '.'

const dot = newLayer('ellipse', 'Dot')
const copies = (count: number, layers: readonly Layer[]): Layer => ({
  ...newLayer('copies', 'Copies', { count }),
  layers,
})
const holding = (...layers: Layer[]): Loop => ({ ...quay, layers })

describe('what a frame costs', () => {
  it('is counted without being evaluated: copies times what they hold', () => {
    expect(drawingsOf(holding(dot))).toBe(1)
    expect(drawingsOf(holding(copies(5, [dot, dot])))).toBe(11)
    expect(drawingsOf(holding(copies(5, [copies(4, [dot])])))).toBe(1 + 5 * (1 + 4))
    expect(drawingsOf(holding({ ...copies(5, [dot]), hidden: true }))).toBe(0)
  })
  it('bounds a few lines that describe a million million shapes: nothing is drawn, it is said, and stays a document', () => {
    const grid = (layers: readonly Layer[]): Layer => ({
      ...newLayer('copies', 'Grid', { arrangement: 'grid', columns: 1000, rows: 1 }),
      layers,
    })
    const loop = holding(grid([grid([grid([grid([dot])])])]))
    expect(formatLoop(loop).length).toBeLessThan(3000)
    expect(drawingsOf(loop)).toBeGreaterThan(1e12)
    expect(evaluate(loop, 0).nodes).toEqual([])
    expect(checkMotions(loop)).toEqual([])
    expect(tooMuchToDraw(loop)).toContain('10^12')
    expect(parseLoop(formatLoop(loop))).toEqual(loop)
    expect(unopenable(loop)).toBeNull()
  })
})

describe('a state of the open document', () => {
  it('is refused, with the field named, where it could not be opened again', () => {
    expect(unopenable(holding({ ...dot, name: 'x'.repeat(300) }))).toContain('layers[0].name')
    expect(unopenable({ ...quay, width: 0 })).toContain('width')
    const many = Array.from({ length: 80 }, (_, i) => pierOf({ id: `p${i}`, file: { ...noFile(i), bytes: 6_000_000 } }))
    expect(unopenable({ ...quay, media: many.slice(0, 70) })).toBeNull()
    expect(unopenable({ ...quay, media: many })).toContain('MB')
  })
})
