import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findLayer, type Layer, type Loop } from '@/core/document'
import { groupLayers, localBounds, newLayer, newLoop, stageBounds } from '@/core/edit'
import type { Box, Point } from '@/core/path'
import { type DragResult, dragStage, layerOnStage, layersInBox, type StageDrag } from './stage-drag'

const empty = newLoop({
  name: 'Pier',
  kind: 'loader',
  width: 400,
  height: 300,
  background: null,
  rate: { num: 24, den: 1 },
  length: 24,
})
const post = newLayer('rectangle', 'Post', { x: 100, y: 100, width: 60, height: 40, radius: 0 }, 'post')
const lamp = newLayer('ellipse', 'Lamp', { x: 300, y: 200, width: 50, height: 50 }, 'lamp')
const pier: Loop = { ...empty, layers: [post, lamp] }

const drag = (
  what: StageDrag,
  to: Point,
  more: { even?: boolean; tolerance?: number; start?: Loop } = {},
): DragResult =>
  dragStage(what, { start: more.start ?? pier, frame: 0, to, even: more.even ?? false, tolerance: more.tolerance ?? 0 })
const values = (result: DragResult, id: string) => (findLayer(result.loop, id) as Layer).values
const boxOf = (loop: Loop, id: string) => stageBounds(loop, [id], 0) as Box
const move = (ids: readonly string[], start = pier): StageDrag => ({
  type: 'move',
  from: { x: 0, y: 0 },
  ids,
  box: stageBounds(start, ids, 0),
})
const anyPoint = fc.record({ x: fc.integer({ min: -300, max: 700 }), y: fc.integer({ min: -300, max: 600 }) })

describe('a drag on the stage', () => {
  it('moves a layer by as much as the pointer, also in a turned and scaled group', () => {
    const grouped = groupLayers(pier, ['post'], 0, 'both')
    const turned: Loop = {
      ...grouped,
      layers: grouped.layers.map((layer) =>
        layer.id === 'both' ? { ...layer, values: { ...layer.values, rotation: 35, scaleX: 1.5, scaleY: 0.8 } } : layer,
      ),
    }
    fc.assert(
      fc.property(anyPoint, fc.constantFrom(pier, turned), (by, start) => {
        const before = boxOf(start, 'post')
        const after = boxOf(drag(move(['post'], start), by, { start }).loop, 'post')
        expect(after.x - before.x).toBeCloseTo(by.x, 1)
        expect(after.y - before.y).toBeCloseTo(by.y, 1)
      }),
    )
  })
  it('keeps straight while it is to', () => {
    expect(values(drag(move(['post']), { x: 30, y: 12 }, { even: true }), 'post')).toMatchObject({ x: 130, y: 100 })
    expect(values(drag(move(['post']), { x: 3, y: 12 }, { even: true }), 'post')).toMatchObject({ x: 100, y: 112 })
  })
  it('snaps edges and middles to those of others and of the frame, and says how far apart they are', () => {
    const { loop, guides, box } = drag(move(['post']), { x: 197, y: 0 }, { tolerance: 5 })
    expect((findLayer(loop, 'post') as Layer).values.x).toBe(295)
    expect(guides).toContainEqual(expect.objectContaining({ axis: 'x', at: 325, distance: 55 }))
    expect(box).toMatchObject({ x: 265, width: 60 })
    expect(drag(move(['post']), { x: 197, y: 0 }).guides).toEqual([])
  })
  it('draws a layer from corner to corner, as large as the drag, a square when it is to be even', () => {
    const draw: StageDrag = { type: 'draw', kind: 'rectangle', from: { x: 20, y: 30 }, id: 'new', name: 'New' }
    expect(boxOf(drag(draw, { x: 90, y: 60 }).loop, 'new')).toEqual({ x: 20, y: 30, width: 70, height: 30 })
    expect(boxOf(drag(draw, { x: -40, y: 60 }, { even: true }).loop, 'new')).toEqual({
      x: -40,
      y: 30,
      width: 60,
      height: 60,
    })
  })
  it('scales so that the handle is under the pointer and the pivot stays', () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 200 }), fc.integer({ min: 5, max: 200 }), (dx, dy) => {
        const box = localBounds(post, 0, 24) as Box
        const scale: StageDrag = { type: 'scale', id: 'post', handle: [1, 1], box }
        const after = boxOf(drag(scale, { x: 100 + dx, y: 100 + dy }).loop, 'post')
        expect(after.x + after.width).toBeCloseTo(100 + dx, 1)
        expect(after.y + after.height).toBeCloseTo(100 + dy, 1)
        expect(after.x + after.width / 2).toBeCloseTo(100, 6)
      }),
    )
  })
  it('scales both ways alike when it is to be even, and one way only at a side', () => {
    const box = localBounds(post, 0, 24) as Box
    const at = (handle: readonly [1, 1] | readonly [1, 0], even: boolean) =>
      values(drag({ type: 'scale', id: 'post', handle, box }, { x: 160, y: 105 }, { even }), 'post')
    expect(at([1, 1], true)).toMatchObject({ scaleX: 2, scaleY: 2 })
    expect(at([1, 0], false)).toMatchObject({ scaleX: 2, scaleY: 1 })
  })
  it('snaps a handle of an upright layer to the edge of the frame', () => {
    const box = localBounds(post, 0, 24) as Box
    const scale: StageDrag = { type: 'scale', id: 'post', handle: [1, 0], box }
    const snapped = drag(scale, { x: 397, y: 100 }, { tolerance: 5 })
    expect(boxOf(snapped.loop, 'post').x + boxOf(snapped.loop, 'post').width).toBeCloseTo(400, 1)
    expect(snapped.guides.map(({ axis }) => axis)).toEqual(['x'])
  })
  it('turns about the pivot by the angle of the pointer, in steps of 15° when it is to be even', () => {
    const turn: StageDrag = { type: 'turn', id: 'post', from: { x: 100, y: 50 } }
    expect(values(drag(turn, { x: 150, y: 100 }), 'post').rotation).toBe(90)
    expect(values(drag(turn, { x: 50, y: 100 }), 'post').rotation).toBe(-90)
    expect(values(drag(turn, { x: 130, y: 48 }, { even: true }), 'post').rotation).toBe(30)
  })
  it('places the pivot without moving the picture', () => {
    fc.assert(
      fc.property(anyPoint, fc.integer({ min: -180, max: 180 }), (to, rotation) => {
        const start: Loop = { ...pier, layers: [{ ...post, values: { ...post.values, rotation } }] }
        const { loop } = drag({ type: 'pivot', id: 'post' }, to, { start })
        const before = layerOnStage(start, 'post', 0)
        const after = layerOnStage(loop, 'post', 0)
        for (const i of [0, 1, 2, 3, 4, 5] as const)
          expect(after?.matrix[i]).toBeCloseTo(before?.matrix[i] as number, 6)
      }),
    )
  })
  it('selects what a box touches, but nothing that is hidden or locked', () => {
    const all = { x: 0, y: 0, width: 400, height: 300 }
    expect(layersInBox(pier, all, 0)).toEqual(['post', 'lamp'])
    expect(layersInBox(pier, { x: 0, y: 0, width: 75, height: 90 }, 0)).toEqual(['post'])
    expect(
      layersInBox(
        {
          ...pier,
          layers: [
            { ...post, locked: true },
            { ...lamp, hidden: true },
          ],
        },
        all,
        0,
      ),
    ).toEqual([])
  })
})
