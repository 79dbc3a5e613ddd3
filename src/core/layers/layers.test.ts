import { describe, expect, it } from 'vitest'
import { renderInNode } from '../../render/node'
import { newLayer, newLoop } from '../edit'
import { evaluate } from '../evaluate'
import { greatestDifference } from '../image'
import { transformPoint } from '../path'
import { defaultValues, LAYER_KINDS, layerKind, placementMatrix, type Values } from '.'

const frame = newLoop({
  name: 'Sheet',
  kind: 'loader',
  width: 120,
  height: 120,
  background: '#0a2231',
  rate: { num: 24, den: 1 },
  length: 24,
})
const drawn = (kind: string, values: Values) =>
  renderInNode(evaluate({ ...frame, layers: [newLayer(kind, kind, values)] }, 0))
/** Kinds that are drawn by a drag over the box that they then fill. */
const shapes = LAYER_KINDS.filter(({ kind, outline }) => outline && kind !== 'text' && kind !== 'belt')

describe('kinds of layers', () => {
  it('are found by their names', () => {
    for (const kind of LAYER_KINDS) expect(layerKind(kind.kind)).toBe(kind)
    expect(() => layerKind('teapot')).toThrow('“teapot”')
  })
  it('have shortcuts and labels of their own', () => {
    const keys = LAYER_KINDS.flatMap(({ shortcut }) => shortcut ?? [])
    expect(new Set(keys).size).toBe(keys.length)
    expect(new Set(LAYER_KINDS.map(({ label }) => label)).size).toBe(LAYER_KINDS.length)
  })
  it.each(shapes.map((kind) => [kind.kind, kind] as const))('%s is drawn inside the box of its drag', (_, kind) => {
    const values = kind.fromDrag({ x: 20, y: 30 }, { x: 90, y: 80 })
    const full = { ...defaultValues(kind.properties), ...values }
    const box = kind.bounds(full)
    if (!box) throw new Error('a shape has bounds')
    const matrix = placementMatrix(full)
    const corners = [
      { x: box.x, y: box.y },
      { x: box.x + box.width, y: box.y + box.height },
    ].map((corner) => transformPoint(matrix, corner))
    const xs = corners.map(({ x }) => x)
    expect(Math.min(...xs)).toBeCloseTo(20, 0)
    expect(Math.max(...xs)).toBeCloseTo(90, 0)
  })
  it.each(shapes.map((kind) => [kind.kind, kind] as const))(
    '%s draws what it is told to, and nothing without paint',
    (name, kind) => {
      const values = kind.fromDrag({ x: 20, y: 30 }, { x: 90, y: 80 })
      const empty = renderInNode(evaluate(frame, 0))
      expect(greatestDifference(drawn(name, { ...values, stroke: '#f7ead0', strokeWidth: 6 }), empty)).toBeGreaterThan(
        100,
      )
      expect(greatestDifference(drawn(name, { ...values, stroke: null, fill: null }), empty)).toBe(0)
      expect(greatestDifference(drawn(name, { ...values, stroke: '#f7ead0', opacity: 0 }), empty)).toBe(0)
    },
  )
  it('fade as a whole: fill and stroke of a half clear shape do not show through each other', () => {
    const values = {
      x: 60,
      y: 60,
      width: 80,
      height: 80,
      fill: '#ffffff',
      stroke: '#ffffff',
      strokeWidth: 20,
      opacity: 0.5,
    }
    const { data, width } = drawn('ellipse', values)
    const at = (x: number, y: number) => data[(y * width + x) * 4] as number
    expect(Math.abs(at(60, 60) - at(60, 26))).toBeLessThanOrEqual(2)
  })
})
