import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greatestOf, ringColumns } from './ring-columns'

describe('the columns of a chart round the ring', () => {
  it('hold every step once, in their order, the seam alone and in the middle, and never too many', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 5000 }), fc.integer({ min: 3, max: 400 }), (N, most) => {
        const columns = ringColumns(N, most)
        const flat = columns.flat()
        expect([...flat].sort((a, b) => a - b)).toEqual(Array.from({ length: N }, (_, n) => n))
        for (let i = 1; i < N; i++) expect(flat[i]).toBe(((flat[i - 1] as number) + 1) % N)
        const seam = columns.findIndex((column) => column.includes(N - 1))
        expect(columns[seam]).toEqual([N - 1])
        expect(Math.abs(seam - (columns.length - 1) / 2)).toBeLessThanOrEqual(1.5)
        expect(columns.length).toBeLessThanOrEqual(Math.max(most, 1) + 3)
      }),
    )
  })
  it('show the greatest of their steps', () => {
    const steps = [1, 5, 2, 9, 3]
    expect(greatestOf([0, 1, 2], steps)).toBe(1)
    expect(greatestOf([4], steps)).toBe(4)
  })
})
