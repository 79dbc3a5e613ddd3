import fc from 'fast-check'
import { expect, it } from 'vitest'
import { solved } from './solve'

const SIZE = 4

it('a system of normal equations has the answer that it was made of, and none where two of its rows say the same', () => {
  const row = fc.array(fc.double({ min: -3, max: 3, noNaN: true }), { minLength: SIZE, maxLength: SIZE })
  fc.assert(
    fc.property(fc.array(row, { minLength: 8, maxLength: 12 }), row, (rows, answer) => {
      // More of each number by itself, so that it is told from the others.
      const all = [...rows, ...answer.map((_, i) => answer.map((__, j) => (i === j ? 1 : 0)))]
      const square = new Float64Array(SIZE * SIZE)
      const right = new Float64Array(SIZE)
      for (const each of all) {
        const value = each.reduce((sum, x, k) => sum + x * answer[k], 0)
        for (let i = 0; i < SIZE; i++) {
          right[i] += each[i] * value
          for (let j = i; j < SIZE; j++) square[i * SIZE + j] += each[i] * each[j]
        }
      }
      for (const [k, x] of (solved(square, right, SIZE) ?? []).entries()) expect(x).toBeCloseTo(answer[k], 6)
      expect(solved(square, right, SIZE)).not.toBeNull()
    }),
    { numRuns: 50 },
  )
  expect(solved(Float64Array.from([1, 1, 0, 1]), Float64Array.from([1, 1]), 2)).toBeNull()
})
