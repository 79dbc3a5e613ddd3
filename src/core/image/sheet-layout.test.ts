import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changedBox, SHEET_SIDES, type SheetSides, sheetLayout } from '.'

describe('the layout of a sprite sheet', () => {
  it('has room for every frame, and no row or column too many', () => {
    const side = fc.integer({ min: 1, max: 600 })
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 600 }),
        side,
        side,
        fc.constantFrom(...SHEET_SIDES),
        (count, w, h, sides) => {
          const { grid, width, height } = sheetLayout(count, { width: w, height: h }, sides)
          expect(grid.columns * grid.rows).toBeGreaterThanOrEqual(count)
          expect(grid.columns * (grid.rows - 1)).toBeLessThan(count)
          expect(width).toBeGreaterThanOrEqual(grid.columns * w)
          expect(height).toBeGreaterThanOrEqual(grid.rows * h)
          if (sides === 'powers of two') for (const s of [width, height]) expect(Math.log2(s) % 1).toBe(0)
        },
      ),
    )
  })
  it('is square where it can be', () => {
    expect(sheetLayout(16, { width: 64, height: 64 }, 'powers of two')).toMatchObject({ width: 256, height: 256 })
    expect(sheetLayout(60, { width: 48, height: 48 }, 'as it comes').grid).toEqual({ columns: 8, rows: 8, count: 60 })
  })
})

describe('what has changed between two frames', () => {
  it('is the least box about all pixels that differ', () => {
    const plain = { width: 9, height: 7, data: new Uint8ClampedArray(9 * 7 * 4).fill(9) }
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(62), { minLength: 1, maxLength: 6 }), (pixels) => {
        const data = plain.data.slice()
        for (const p of pixels) data[4 * p + 2] = 10
        const xs = pixels.map((p) => p % 9)
        const ys = pixels.map((p) => Math.floor(p / 9))
        const x = Math.min(...xs)
        const y = Math.min(...ys)
        expect(changedBox(plain, { ...plain, data })).toEqual({
          x,
          y,
          width: Math.max(...xs) - x + 1,
          height: Math.max(...ys) - y + 1,
        })
      }),
    )
    expect(changedBox(plain, plain)).toEqual({ x: 0, y: 0, width: 1, height: 1 })
  })
  it('holds as many columns as a width has room for, one at least', () => {
    const of = (count: number, width: number, sides: SheetSides) => sheetLayout(count, { width, height: 50 }, sides)
    expect(of(60, 100, 'up to 1024 px wide')).toEqual({
      grid: { columns: 10, rows: 6, count: 60 },
      width: 1000,
      height: 300,
    })
    expect(of(4, 100, 'up to 1024 px wide').grid).toEqual({ columns: 4, rows: 1, count: 4 })
    expect(of(3, 3000, 'up to 2048 px wide').grid).toEqual({ columns: 1, rows: 3, count: 3 })
  })
})
