import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { strokesCover } from '../../effects'
import type { Picture } from '../../image'
import { movingRegion, shareOf, strokesOver } from '..'

const ACROSS = 16
const DOWN = 12
/** Small pictures in which some cells change. */
function frames(moving: ReadonlySet<number>): Picture[] {
  return [0, 60].map((value) => {
    const data = new Uint8ClampedArray(4 * ACROSS * DOWN).fill(100)
    for (const cell of moving) data[4 * cell + 1] = 100 + value
    return { width: ACROSS, height: DOWN, data }
  })
}

describe('what moves in a loop', () => {
  it('is each cell that changes, and no other', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(ACROSS * DOWN - 1)), (cells) => {
        const region = movingRegion(frames(new Set(cells)))
        expect(region.cells.flatMap((moves, i) => (moves ? [i] : []))).toEqual([...cells].sort((a, b) => a - b))
        expect(shareOf(region)).toBeCloseTo(cells.length / (ACROSS * DOWN), 9)
      }),
    )
    expect([movingRegion([]).cells, shareOf(movingRegion([]))]).toEqual([[], 0])
  })
  it('is painted over by strokes that leave the rest clear', () => {
    const block = [4, 5, 6, 7].flatMap((y) => [5, 6, 7, 8, 9].map((x) => y * ACROSS + x))
    // A cell by itself is a flicker.
    const region = movingRegion(frames(new Set([...block, 0])))
    const width = 160
    const height = 120
    const strokes = strokesOver(region, width, height)
    expect(strokes).toHaveLength(4)
    const coverage = strokesCover(strokes, width, height, [1, 0, 0, 1, width / 2, height / 2])
    const at = (x: number, y: number) => coverage[y * width + x]
    for (const cell of block)
      expect(at(10 * (cell % ACROSS) + 5, 10 * Math.floor(cell / ACROSS) + 5)).toBeGreaterThan(240)
    expect([at(5, 5), at(20, 60), at(140, 60), at(75, 110)]).toEqual([0, 0, 0, 0])
  })
})
