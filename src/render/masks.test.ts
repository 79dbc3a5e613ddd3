import { describe, expect, it } from 'vitest'
import type { DisplayNode } from '@/core/display'
import type { Layer } from '@/core/document'
import { newLayer } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import { IDENTITY, pathOf } from '@/core/path'
import { quay } from '@/core/testing/quay'
import { renderInNode } from './node'

/** The pixel at a point of 40×40 px on which layers are drawn. */
function pixel(layers: readonly Layer[], x: number, y: number, background: string | null = null): number[] {
  const loop = { ...quay, width: 40, height: 40, background, layers }
  const { data } = renderInNode(evaluate(loop, 0))
  return [...data.slice((y * 40 + x) * 4, (y * 40 + x) * 4 + 4)]
}
const box = (fill: string, values = {}) =>
  newLayer('rectangle', fill, { x: 20, y: 20, width: 40, height: 40, radius: 0, fill, ...values })
const disc = (values = {}) =>
  newLayer('ellipse', 'Disc', { x: 20, y: 20, width: 20, height: 20, fill: '#00ff00', ...values })
const group = (layers: readonly Layer[], values = {}): Layer => ({ ...newLayer('group', 'Group', values), layers })

describe('a mask', () => {
  it('shows what lies behind the frontmost layer only where that is, or is not', () => {
    const cut = (mask: string) => [group([box('#ff0000'), disc()], { mask })]
    expect(pixel(cut('shape'), 20, 20)).toEqual([255, 0, 0, 255])
    expect(pixel(cut('shape'), 2, 2)).toEqual([0, 0, 0, 0])
    expect(pixel(cut('inverse'), 20, 20)).toEqual([0, 0, 0, 0])
    expect(pixel(cut('inverse'), 2, 2)).toEqual([255, 0, 0, 255])
    expect(pixel(cut('none'), 20, 20)).toEqual([0, 255, 0, 255])
  })
  it('leaves what is not in its group alone, and masks half where it is half clear', () => {
    const layers = [box('#0000ff'), group([box('#ff0000'), disc({ opacity: 0.5 })], { mask: 'shape' })]
    expect(pixel(layers, 2, 2)).toEqual([0, 0, 255, 255])
    const [red = 0, , blue = 0] = pixel(layers, 20, 20)
    expect(Math.abs(red - blue)).toBeLessThan(4)
  })
  it('that is hidden masks nothing, and nothing takes its place', () => {
    const hidden = { ...disc(), hidden: true }
    expect(pixel([group([box('#ff0000'), box('#0000ff', { width: 10 }), hidden], { mask: 'shape' })], 2, 2)).toEqual([
      255, 0, 0, 255,
    ])
  })
})

describe('filters', () => {
  it('blur an edge, and nothing else', () => {
    const layers = [disc({ blur: 3 })]
    expect(pixel(layers, 20, 20)[3]).toBeGreaterThan(200)
    const edge = pixel(layers, 31, 20)[3] ?? 0
    expect(edge).toBeGreaterThan(10)
    expect(edge).toBeLessThan(200)
  })
  it('throw a shadow to the side, turned with the layer', () => {
    const shaded = (rotation: number) => [
      disc({ width: 10, height: 10, shadowColour: '#ff0000', shadowX: 12, shadowY: 0, shadowBlur: 0, rotation }),
    ]
    expect(pixel(shaded(0), 32, 20)).toEqual([255, 0, 0, 255])
    expect(pixel(shaded(90), 20, 32)).toEqual([255, 0, 0, 255])
    expect(pixel(shaded(90), 32, 20)[3]).toBe(0)
  })
  it('change brightness and hue of a whole group', () => {
    expect(pixel([group([box('#804020')], { brightness: 0.5 })], 20, 20).slice(0, 3)).toEqual([64, 32, 16])
    const [red = 0, , blue = 0] = pixel([group([box('#ff0000')], { hueRotate: 240 })], 20, 20)
    expect(blue).toBeGreaterThan(red)
  })
})

describe('gradients', () => {
  const graded = (values: object) => [box('#ff0000', { fillTo: '#0000ff', ...values })]
  it('run from one colour to the other in their direction', () => {
    const across = graded({ fillKind: 'linear', fillAngle: 0 })
    expect(pixel(across, 1, 20)[0]).toBeGreaterThan(240)
    expect(pixel(across, 38, 20)[2]).toBeGreaterThan(240)
    const down = graded({ fillKind: 'linear', fillAngle: 90 })
    expect(pixel(down, 20, 1)[0]).toBeGreaterThan(240)
    for (const [i, channel] of pixel(down, 1, 20).entries())
      expect(Math.abs(channel - (pixel(down, 38, 20)[i] ?? 0))).toBeLessThan(3)
  })
  it('begin and end where they are told to, as a hard edge where that is one place', () => {
    const late = graded({ fillKind: 'linear', fillAngle: 0, fillStart: 0.5, fillEnd: 0.5 })
    expect(pixel(late, 17, 20)).toEqual([255, 0, 0, 255])
    expect(pixel(late, 23, 20)).toEqual([0, 0, 255, 255])
  })
  it('pass through the colours between, in the order of their places', () => {
    const fillStops = [
      { at: 0.75, colour: '#ffffff' },
      { at: 0.25, colour: '#00ff00' },
    ]
    const across = graded({ fillKind: 'linear', fillAngle: 0, fillStops })
    expect(pixel(across, 10, 20)[1]).toBeGreaterThan(240)
    expect(Math.min(...pixel(across, 29, 20))).toBeGreaterThan(240)
    const inwards = graded({ fillKind: 'radial', fillStart: 1, fillEnd: 0, fillStops: [fillStops[1]] })
    expect(pixel(inwards, 35, 20)[1]).toBeGreaterThan(200)
    expect(pixel(inwards, 20, 20)[2]).toBeGreaterThan(235)
  })
  it('run outwards from the middle', () => {
    const round = graded({ fillKind: 'radial' })
    expect(pixel(round, 20, 20)[0]).toBeGreaterThan(235)
    expect(pixel(round, 1, 20)[2]).toBeGreaterThan(235)
    const turned = graded({ fillKind: 'radial', fillStart: 1, fillEnd: 0 })
    expect(pixel(turned, 20, 20)[2]).toBeGreaterThan(235)
  })
})

describe('a group with a clip, and a picture', () => {
  const node = (more: object) =>
    ({ layerId: 'a', transform: IDENTITY, opacity: 1, blend: 'normal', ...more }) as DisplayNode
  const red = node({ type: 'shape', stroke: null, fill: { colour: '#ff0000', path: pathOf('M0 0H40V40H0Z') } })
  const at = (nodes: readonly DisplayNode[], x: number, y: number) => {
    const { data } = renderInNode({ width: 40, height: 40, background: null, nodes })
    return data[(y * 40 + x) * 4 + 3]
  }
  it('draws nothing outside it, and does not cut what comes after', () => {
    const clipped = node({ type: 'group', clip: { x: 10, y: 10, width: 10, height: 10 }, children: [red] })
    expect([at([clipped], 15, 15), at([clipped], 25, 25)]).toEqual([255, 0])
    expect(at([clipped, red], 25, 25)).toBe(255)
  })
  it('is left out where the picture is not there', () => {
    const missing = node({ type: 'picture', id: 'gone', box: { x: 0, y: 0, width: 40, height: 40 } })
    expect(at([missing], 20, 20)).toBe(0)
  })
})
