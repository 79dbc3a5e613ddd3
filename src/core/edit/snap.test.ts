import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distancesToFrame, snapBox } from '.'

const frame = { x: 0, y: 0, width: 480, height: 480 }
const anyBox = fc.record({
  x: fc.integer({ min: -100, max: 500 }),
  y: fc.integer({ min: -100, max: 500 }),
  width: fc.integer({ min: 1, max: 200 }),
  height: fc.integer({ min: 1, max: 200 }),
})

describe('snapping', () => {
  it('centres a box that is nearly centred', () => {
    const snap = snapBox({ x: 187, y: 100, width: 100, height: 40 }, [frame], 6)
    expect(snap).toMatchObject({ dx: 3, dy: 0 })
    expect(snap.guides).toEqual([{ axis: 'x', at: 240, from: 0, to: 480, distance: 0 }])
  })
  it('shows the distance to the box it lines up with', () => {
    const other = { x: 40, y: 300, width: 100, height: 50 }
    const { guides } = snapBox({ x: 42, y: 100, width: 60, height: 60 }, [other], 6)
    expect(guides[0]).toMatchObject({ axis: 'x', at: 40, distance: 140 })
  })
  it('never shifts further than its tolerance, and what it shifted stays', () => {
    fc.assert(
      fc.property(
        anyBox,
        fc.array(anyBox, { maxLength: 6 }),
        fc.integer({ min: 0, max: 12 }),
        (box, targets, tolerance) => {
          const { dx, dy, guides } = snapBox(box, targets, tolerance)
          expect(Math.max(Math.abs(dx), Math.abs(dy))).toBeLessThanOrEqual(tolerance)
          expect(snapBox({ ...box, x: box.x + dx, y: box.y + dy }, targets, tolerance)).toMatchObject({ dx: 0, dy: 0 })
          expect(guides.length).toBeLessThanOrEqual(2)
        },
      ),
    )
  })
  it('measures to all four sides of the frame', () => {
    expect(distancesToFrame({ x: 10, y: -5, width: 100, height: 50 }, 480, 240)).toEqual({
      top: -5,
      right: 370,
      bottom: 195,
      left: 10,
    })
  })
})
