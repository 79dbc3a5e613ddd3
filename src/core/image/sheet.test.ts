import { describe, expect, it } from 'vitest'
import { SCENES, scenePictures } from '../../../bench/corpus/scenes'
import { cellAt, findGrid, type Picture, type SheetGrid } from '.'

const CELL = 64
const sceneOf = (name: string) => SCENES.find((scene) => scene.name === name) as (typeof SCENES)[number]

/** A sheet of the frames of a scene, cells that are left over staying clear. */
function sheetOf(name: string, { columns, rows, count }: SheetGrid): Picture {
  const times = Array.from({ length: count }, (_, n) => n / count)
  const width = columns * CELL
  const height = rows * CELL
  const data = new Uint8ClampedArray(width * height * 4)
  for (const [n, frame] of scenePictures(sceneOf(name), CELL, times, count).entries()) {
    const { x, y } = cellAt({ width, height }, { columns, rows, count }, n)
    for (let row = 0; row < CELL; row++)
      data.set(frame.data.subarray(row * CELL * 4, (row + 1) * CELL * 4), ((y + row) * width + x) * 4)
  }
  return { width, height, data }
}

describe('the grid of a sprite sheet', () => {
  it.each([
    ['turning', { columns: 8, rows: 4, count: 32 }],
    ['bobbing', { columns: 6, rows: 5, count: 30 }],
    ['drifting noise', { columns: 32, rows: 1, count: 32 }],
    ['growing arc', { columns: 5, rows: 3, count: 15 }],
    ['transparent', { columns: 4, rows: 6, count: 22 }],
    ['breathing', { columns: 7, rows: 2, count: 13 }],
  ] as const)('is found for %s', (name, grid) => {
    expect(findGrid(sheetOf(name, grid))).toEqual(grid)
  })
  it.each(['turning', 'footage with grain', 'drifting noise', 'many small movers', 'two colours'])(
    'is not found in a single picture of %s',
    (name) => {
      const [frame] = scenePictures(sceneOf(name), 192, [0], 1)
      expect(findGrid(frame as Picture)).toBeNull()
    },
  )
  it('is not found in a plain picture, nor in one of a single pixel', () => {
    expect(findGrid({ width: 64, height: 64, data: new Uint8ClampedArray(64 * 64 * 4).fill(200) })).toBeNull()
    expect(findGrid({ width: 1, height: 1, data: new Uint8ClampedArray(4) })).toBeNull()
  })
})
