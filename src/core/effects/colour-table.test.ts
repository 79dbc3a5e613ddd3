import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greatestDifference, type Picture } from '../image'
import { seeded } from '../random'
import {
  ColourTableError,
  pictureOfTable,
  readColourTable,
  tableOf,
  tableOfPicture,
  throughTable,
} from './colour-table'

const picture: Picture = {
  width: 40,
  height: 30,
  data: Uint8ClampedArray.from({ length: 4800 }, (_, i) => 256 * seeded(7, i)),
}
/** The text of a table. */
const cube = (size: number, become: (rgb: readonly number[]) => readonly number[], head = '') => {
  const { data } = tableOf(size, become)
  const rows = Array.from({ length: size ** 3 }, (_, i) =>
    [...data.subarray(3 * i, 3 * i + 3)].map((x) => x.toFixed(6)).join(' '),
  )
  return `TITLE "Dusk at the pier"\n# made for a test\n${head}LUT_3D_SIZE ${size}\n\n${rows.join('\r\n')}\n`
}
const same = (rgb: readonly number[]) => rgb

describe('a table of colours', () => {
  it('that changes nothing changes nothing, at any size', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 20 }), (size) => {
        const table = readColourTable(cube(size, same))
        expect(table.size).toBe(size)
        expect(greatestDifference(throughTable(picture, table), picture)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 8 },
    )
  })
  it('runs through red first: what exchanges red and blue exchanges them', () => {
    const { data } = throughTable(picture, readColourTable(cube(9, ([r = 0, g = 0, b = 0]) => [b, g, r])))
    for (let i = 0; i < data.length; i += 4) {
      expect(Math.abs(data[i] - picture.data[i + 2])).toBeLessThanOrEqual(1)
      expect(data[i + 3]).toBe(picture.data[i + 3])
    }
  })
  it('of one dimension, or for another range, is one of three for all', () => {
    const half = readColourTable('LUT_1D_SIZE 2\n0 0 0\n0.5 0.5 0.5\n')
    const { data } = throughTable(picture, half)
    expect(Math.abs(data[0] - picture.data[0] / 2)).toBeLessThanOrEqual(1)
    const wide = readColourTable(cube(5, same, 'DOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n'))
    const dark = throughTable(picture, wide).data[1]
    expect(Math.abs(dark - picture.data[1] / 2)).toBeLessThanOrEqual(1)
  })
  it('is kept as a picture, and is that again within half a step', () => {
    const table = readColourTable(cube(6, ([r = 0, g = 0, b = 0]) => [r * r, g, 1 - b]))
    const back = tableOfPicture(pictureOfTable(table))
    expect(back?.size).toBe(6)
    for (const [i, value] of (back?.data ?? []).entries())
      expect(Math.abs(value - table.data[i])).toBeLessThanOrEqual(0.5 / 255 + 1e-6)
    expect(tableOfPicture(picture)).toBeNull()
  })
  it.each([
    ['', 'nowhere how large'],
    ['just words in a file', 'before it says how many'],
    ['LUT_3D_SIZE 3\n0 0 0\n1 1 1\n', 'breaks off: it says that it has 27 colours and holds 2'],
    ['LUT_3D_SIZE 1\n0 0 0\n', '1 steps'],
    ['LUT_3D_SIZE 500\n', '500 steps'],
    ['LUT_3D_SIZE many\n', 'many steps'],
    ['LUT_1D_SIZE 2\n0 0\n1 1 1\n', 'Line 2'],
    ['LUT_1D_SIZE 2\n0 0 nan\n1 1 1\n', 'Line 2'],
    ['LUT_1D_SIZE 2\n0 0 0\n1 1 1\n0 0 0\n', 'more than the 2 colours'],
    ['LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n', 'begins above where it ends'],
  ])('is refused in words where it is broken: %j', (text, words) => {
    expect(() => readColourTable(text)).toThrow(ColourTableError)
    expect(() => readColourTable(text)).toThrow(words)
  })
})
