import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changeLayer, findLayer, type Layer, type Loop } from '../document'
import { quay } from '../testing/quay'
import {
  ALIGNED_EDGES,
  alignLayers,
  distributeLayers,
  groupLayers,
  newLayer,
  sameSize,
  setValue,
  stageBounds,
  takeMove,
} from '.'

const boxes: fc.Arbitrary<Layer[]> = fc.array(
  fc
    .record({
      x: fc.integer({ min: -200, max: 600 }),
      y: fc.integer({ min: -200, max: 600 }),
      width: fc.integer({ min: 1, max: 200 }),
      height: fc.integer({ min: 1, max: 200 }),
      rotation: fc.integer({ min: -180, max: 180 }),
    })
    .map((values) => newLayer('rectangle', 'Board', { ...values, stroke: null })),
  { minLength: 2, maxLength: 6 },
)
const holding = (layers: readonly Layer[]): Loop => ({ ...quay, layers })
const idsOf = (layers: readonly Layer[]) => layers.map(({ id }) => id)
type Box = NonNullable<ReturnType<typeof stageBounds>>
const boxOf = (loop: Loop, id: string, frame = 0) =>
  stageBounds(loop, [id], frame) as NonNullable<ReturnType<typeof stageBounds>>
const sideOf = { left: 'x', centre: 'x', right: 'x', top: 'y', middle: 'y', bottom: 'y' } as const
const edgeAt = (edge: (typeof ALIGNED_EDGES)[number], { x, y, width, height }: ReturnType<typeof boxOf>) =>
  ({ left: x, centre: x + width / 2, right: x + width, top: y, middle: y + height / 2, bottom: y + height })[edge]

describe('layers are aligned', () => {
  it('by any edge, as they are seen, and along that way alone', () => {
    fc.assert(
      fc.property(boxes, fc.constantFrom(...ALIGNED_EDGES), (layers, edge) => {
        const loop = holding(layers)
        const whole = stageBounds(loop, idsOf(layers), 0)
        const made = alignLayers(loop, idsOf(layers), edge, 0)
        const other = sideOf[edge] === 'x' ? 'y' : 'x'
        for (const id of idsOf(layers)) {
          expect(edgeAt(edge, boxOf(made, id))).toBeCloseTo(edgeAt(edge, whole as never), 4)
          expect(boxOf(made, id)[other]).toBeCloseTo(boxOf(loop, id)[other], 4)
        }
      }),
    )
  })
  it('to the frame where it is one alone', () => {
    const board = newLayer('rectangle', 'Board', { x: 31, y: 7, width: 10, height: 20, stroke: null })
    const made = alignLayers(alignLayers(holding([board]), [board.id], 'right', 0), [board.id], 'middle', 0)
    expect(boxOf(made, board.id)).toMatchObject({ x: quay.width - 10, y: (quay.height - 20) / 2 })
  })
  it('with the whole of their motion, and within a group that is turned', () => {
    const [a, b] = [40, 90].map((x) =>
      newLayer('ellipse', 'Buoy', { x, y: 50, width: 20, height: 20, stroke: null }),
    ) as [Layer, Layer]
    const grouped = groupLayers(takeMove(holding([a, b]), [b.id], { name: 'bob' }), [b.id], 0, 'raft')
    const turned = changeLayer(grouped, 'raft', (layer) => setValue(layer, 'rotation', 90, 0, quay.length))
    const made = alignLayers(turned, [a.id, b.id], 'left', 5)
    expect(boxOf(made, b.id, 5).x).toBeCloseTo(
      boxOf(turned, b.id, 5).x < 30 ? boxOf(turned, b.id, 5).x : boxOf(made, a.id, 5).x,
      4,
    )
    expect(boxOf(made, a.id, 5).x).toBeCloseTo(boxOf(made, b.id, 5).x, 4)
    // It still moves as it did, elsewhere.
    const moves = (loop: Loop) => boxOf(loop, b.id, 12).x - boxOf(loop, b.id, 5).x
    expect(moves(made)).toBeCloseTo(moves(turned), 4)
  })
})

describe('gaps are evened out', () => {
  it('between the outermost, which stay, in either way', () => {
    fc.assert(
      fc.property(boxes, fc.constantFrom('x', 'y' as const), (layers, along) => {
        const side = along === 'x' ? 'width' : 'height'
        const loop = holding(layers)
        const made = distributeLayers(loop, idsOf(layers), along, 0)
        if (layers.length < 3) {
          expect(made).toBe(loop)
          return
        }
        const order = idsOf(layers).sort((a, b) => boxOf(loop, a)[along] - boxOf(loop, b)[along])
        const [was, now] = [loop, made].map((each) => order.map((id) => boxOf(each, id))) as [Box[], Box[]]
        const gaps = now.slice(1).map((box, n) => box[along] - (now[n] as Box)[along] - (now[n] as Box)[side])
        for (const gap of gaps) expect(gap).toBeCloseTo(gaps[0] ?? 0, 3)
        for (const n of [0, order.length - 1]) expect(now[n]?.[along]).toBeCloseTo(was[n]?.[along] ?? 0, 3)
      }),
    )
  })
})

describe('layers become as large as the last', () => {
  it('where both have the measure, and stay where they are', () => {
    const large = newLayer('rectangle', 'Board', { x: 10, y: 10, width: 120, height: 40 })
    const small = newLayer('ellipse', 'Buoy', { x: 90, y: 60, width: 20, height: 20 })
    const line = newLayer('line', 'Mast', { x: 5, y: 5, length: 33 })
    const made = sameSize(holding([large, small, line]), [small.id, line.id, large.id])
    expect(findLayer(made, small.id)?.values).toMatchObject({ width: 120, height: 40, x: 90, y: 60 })
    expect(findLayer(made, line.id)?.values).toMatchObject({ length: 33 })
    expect(findLayer(made, large.id)).toBe(large)
    expect(sameSize(holding([large]), ['nothing'])).toEqual(holding([large]))
  })
})
