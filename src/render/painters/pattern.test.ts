import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkMotions } from '@/core/closing'
import { drawingsOf, type Layer, type Loop } from '@/core/document'
import { makeParticles, makePattern, newLayer, patternInFigure } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import { evenly } from '@/core/motion'
import { quay } from '@/core/testing/quay'
import { renderInNode } from '../node'

const pier: Loop = { ...quay, width: 96, height: 64, length: 20, background: '#0b2230' }
const dot = newLayer('ellipse', 'Dot', { x: 16, y: 16, width: 20, height: 20, fill: '#f2b54a' }, 'dot')
const bar = newLayer('rectangle', 'Bar', { x: 8, y: 8, width: 6, height: 16, radius: 0, fill: '#79c9b4' }, 'bar')

/** A pattern with a tile of 32 × 32 px. */
function patterned(values = {}, motions: Layer['motions'] = {}): Loop {
  const made = makePattern({ ...pier, layers: [bar, dot] }, ['bar', 'dot'], 0)
  const [layer] = made?.loop.layers ?? []
  if (!layer) throw new Error('a pattern can be made')
  return {
    ...pier,
    layers: [{ ...layer, motions, values: { ...layer.values, tileWidth: 32, tileHeight: 32, ...values } }],
  }
}
const drawn = (loop: Loop, frame = 0) => renderInNode(evaluate(loop, frame)).data

describe('a pattern', () => {
  it('fills the frame with what was selected, whose box is its pitch', () => {
    const made = makePattern({ ...pier, layers: [bar, dot] }, ['bar', 'dot'], 0)
    const [layer] = made?.loop.layers ?? []
    expect(layer).toMatchObject({ kind: 'pattern', values: { width: 96, height: 64, tileWidth: 21, tileHeight: 26 } })
    expect(layer?.layers?.map(({ name }) => name)).toEqual(['Bar', 'Dot'])
  })
  it('fills a figure, the last of what was selected, and nothing beside it', () => {
    const disc = newLayer('ellipse', 'Disc', { x: 60, y: 30, width: 40, height: 40, fill: '#ffffff' }, 'disc')
    const made = patternInFigure({ ...pier, layers: [disc, dot] }, ['dot', 'disc'], 0)
    if (!made) throw new Error('it can be made')
    expect(made.loop.layers.map(({ name }) => name)).toEqual(['Pattern in Disc'])
    const data = drawn(made.loop)
    const at = (x: number, y: number) => data.subarray(4 * (y * 96 + x), 4 * (y * 96 + x) + 3).join()
    expect(at(4, 4)).toBe('11,34,48')
    const inside = Array.from({ length: 30 }, (_, i) => at(46 + i, 30))
    expect(inside).toContain('242,181,74')
    expect(inside).not.toContain('255,255,255')
    expect(patternInFigure(pier, ['disc'], 0)).toBeNull()
  })
  it('is the same a tile further on, across and down', () => {
    const data = drawn(patterned())
    const at = (x: number, y: number) => [...data.subarray(4 * (y * 96 + x), 4 * (y * 96 + x) + 3)]
    for (let y = 0; y < 32; y++)
      for (let x = 0; x < 64; x++) {
        expect(at(x + 32, y)).toEqual(at(x, y))
        expect(at(x, y + 32)).toEqual(at(x, y))
      }
    expect(new Set(data).size).toBeGreaterThan(4)
  })
  it('comes home moved on by whole tiles, and looks the same as unmoved', () => {
    fc.assert(
      fc.property(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 }), (across, down) => {
        const moving = patterned({}, { offsetX: evenly(across), offsetY: evenly(down) })
        expect(checkMotions(moving).every(({ home }) => home)).toBe(true)
        expect(drawn(patterned({ offsetX: across, offsetY: down }))).toEqual(drawn(patterned()))
      }),
      { numRuns: 20 },
    )
    expect(checkMotions(patterned({}, { offsetX: evenly(0.5) })).map(({ home }) => home)).toEqual([false])
    expect(drawn(patterned({ offsetX: 0.5 }))).not.toEqual(drawn(patterned()))
  })
  it('shows what lies over an edge of the tile on its other side', () => {
    const wide = { ...dot, values: { ...dot.values, x: 0, y: 0 } }
    const loop = patterned()
    const [layer] = loop.layers
    const shifted = {
      ...loop,
      layers: [{ ...(layer as Layer), layers: [{ ...wide, values: { ...wide.values, x: 16 } }] }],
    }
    const data = drawn(shifted)
    // The dot stands on the edge between two tiles, whole.
    const colour = (x: number, y: number) => data[4 * (y * 96 + x)]
    const row = Array.from({ length: 96 }, (_, x) => colour(x, 32) > 120)
    expect(row.filter(Boolean).length).toBeGreaterThanOrEqual(54)
  })
})

describe('particles of layers', () => {
  it('are what was selected, many times over, and come home', () => {
    const made = makeParticles({ ...pier, layers: [dot] }, ['dot'], 0)
    const loop = made?.loop as Loop
    expect(loop.layers).toMatchObject([{ kind: 'particles', values: { shape: 'layers' }, layers: [{ name: 'Dot' }] }])
    expect(checkMotions(loop).every(({ home }) => home)).toBe(true)
    const lit = (frame: number) => drawn(loop, frame).filter((value, i) => i % 4 === 0 && value > 200).length
    expect(lit(0)).toBeGreaterThan(300)
    expect(drawn(loop, 7)).not.toEqual(drawn(loop, 0))
    expect(drawingsOf(loop)).toBe(120)
  })
})
