import { describe, expect, it } from 'vitest'
import type { DisplayNode, Drawing } from '@/core/display'
import { IDENTITY, type Matrix, polygonPath } from '@/core/path'
import { renderInNode } from './node'

const square = (colour: string, size = 20): Drawing => ({
  type: 'shape',
  fill: {
    colour,
    path: polygonPath([
      { x: 0, y: 0 },
      { x: size, y: 0 },
      { x: size, y: size },
      { x: 0, y: size },
    ]),
  },
  stroke: null,
})
const at = (x: number, y: number): Matrix => [1, 0, 0, 1, x, y]
const node = (drawing: Drawing, more: Partial<DisplayNode> = {}): DisplayNode =>
  ({ ...drawing, layerId: 'a', transform: IDENTITY, opacity: 1, blend: 'normal', ...more }) as DisplayNode
const group = (children: readonly DisplayNode[], more: Partial<DisplayNode> = {}) =>
  node({ type: 'group', children }, more)

/** The colour of one pixel of what is drawn on 40×40 px. */
function pixel(nodes: readonly DisplayNode[], x: number, y: number, background: string | null = '#000000') {
  const { data } = renderInNode({ width: 40, height: 40, background, nodes })
  return [...data.slice((y * 40 + x) * 4, (y * 40 + x) * 4 + 4)]
}

describe('drawing', () => {
  it('puts later nodes in front, where their transforms put them', () => {
    const nodes = [node(square('#ff0000')), node(square('#0000ff'), { transform: at(10, 10) })]
    expect(pixel(nodes, 5, 5)).toEqual([255, 0, 0, 255])
    expect(pixel(nodes, 15, 15)).toEqual([0, 0, 255, 255])
    expect(pixel(nodes, 35, 35)).toEqual([0, 0, 0, 255])
  })
  it('places children in their group, and groups in theirs', () => {
    const inner = group([node(square('#ff0000'), { transform: at(2, 0) })], { transform: at(4, 0) })
    const nodes = [group([inner], { transform: [2, 0, 0, 2, 0, 0] })]
    expect(pixel(nodes, 11, 3)).toEqual([0, 0, 0, 255])
    expect(pixel(nodes, 13, 3)).toEqual([255, 0, 0, 255])
  })
  it('fades a group as a whole: its parts do not show through each other', () => {
    const parts = [node(square('#ff0000')), node(square('#ffffff'), { transform: at(10, 0) })]
    const [, green] = pixel([group(parts, { opacity: 0.5 })], 15, 5)
    expect(green).toBeGreaterThan(125)
    expect(green).toBeLessThan(130)
    const [red, , blue] = pixel([group(parts, { opacity: 0.5 })], 15, 5)
    expect(red).toBe(blue)
  })
  it('blends a group with what lies behind, its parts first with each other', () => {
    const parts = [node(square('#ff0000')), node(square('#00ff00'))]
    expect(pixel([group(parts, { blend: 'multiply' })], 5, 5, '#ffff00')).toEqual([0, 255, 0, 255])
    expect(pixel([node(square('#ff0000'), { blend: 'screen' })], 5, 5, '#0000ff')).toEqual([255, 0, 255, 255])
    expect(pixel([node(square('#800000'), { blend: 'plus-lighter' })], 5, 5, '#400000')).toEqual([192, 0, 0, 255])
  })
  it('leaves a frame without background clear, and a faded one half so', () => {
    expect(pixel([], 5, 5, null)).toEqual([0, 0, 0, 0])
    const [, , , alpha] = pixel([node(square('#ff0000'), { opacity: 0.5 })], 5, 5, null)
    expect(alpha).toBeGreaterThan(125)
    expect(alpha).toBeLessThan(130)
  })
  it('draws nothing of what is fully clear, and keeps no state from node to node', () => {
    const hidden = node(square('#ff0000'), { opacity: 0, blend: 'difference' })
    const nodes = [hidden, group([hidden], { opacity: 0.2 }), node(square('#00ff00'), { transform: at(20, 20) })]
    expect(pixel(nodes, 5, 5)).toEqual([0, 0, 0, 255])
    expect(pixel(nodes, 25, 25)).toEqual([0, 255, 0, 255])
  })
  it('fits the frame to the size that is asked for', () => {
    const list = { width: 40, height: 40, background: null, nodes: [node(square('#ff0000'), { transform: at(20, 0) })] }
    const { data, width } = renderInNode(list, 80, 20)
    expect([...data.slice((5 * width + 60) * 4, (5 * width + 60) * 4 + 4)]).toEqual([255, 0, 0, 255])
    expect(data[(15 * width + 60) * 4 + 3]).toBe(0)
  })
})
