import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { finer } from '.'

const number = fc.double({ min: -3, max: 3, noNaN: true })
const corner = fc.tuple(number, number, number)
const areaOf = (positions: Float32Array): number => {
  let sum = 0
  for (let t = 0; t < positions.length; t += 9) {
    const p = (k: number, axis: number) => positions[t + 3 * k + axis]
    const u = [0, 1, 2].map((axis) => p(1, axis) - p(0, axis)) as [number, number, number]
    const v = [0, 1, 2].map((axis) => p(2, axis) - p(0, axis)) as [number, number, number]
    sum += Math.hypot(u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]) / 2
  }
  return sum
}
const sides = (positions: Float32Array): [string, string, number][] => {
  const out: [string, string, number][] = []
  for (let t = 0; t < positions.length; t += 9)
    for (let k = 0; k < 3; k++) {
      const at = (n: number) => [...positions.subarray(t + 3 * (n % 3), t + 3 * (n % 3) + 3)]
      const a = at(k)
      const b = at(k + 1)
      out.push([a.join(), b.join(), Math.hypot(...a.map((x, i) => x - b[i]))])
    }
  return out
}

describe('a surface in smaller triangles', () => {
  it('is the same surface: as large, with no side too long, and no gaps where two triangles meet', () => {
    fc.assert(
      fc.property(
        corner,
        corner,
        corner,
        corner,
        fc.double({ min: 0.4, max: 4, noNaN: true }),
        (a, b, c, d, longest) => {
          // Two triangles that share a side.
          const positions = Float32Array.from([...a, ...b, ...c, ...c, ...b, ...d])
          const normals = Float32Array.from(Array.from({ length: 6 }, () => [0, 1, 0]).flat())
          const made = finer({ positions, normals }, longest, 100_000)
          expect(areaOf(made.positions)).toBeCloseTo(areaOf(positions), 2)
          const all = sides(made.positions)
          for (const [, , length] of all) expect(length).toBeLessThanOrEqual(longest + 1e-5)
          // An inner side belongs to two triangles, once each way; an outer one lies on the rim of both.
          const rim = (p: string) => {
            const q = p.split(',').map(Number)
            return (
              [
                [a, b],
                [a, c],
                [b, d],
                [c, d],
              ] as const
            ).some(([from, to]) => {
              const whole = Math.hypot(...from.map((x, i) => x - to[i]))
              const [p1, p2] = [from, to].map((end) => Math.hypot(...end.map((x, i) => x - q[i]))) as [number, number]
              return p1 + p2 - whole < 1e-3
            })
          }
          const known = new Set(all.map(([from, to]) => `${from} ${to}`))
          for (const [from, to, length] of all)
            if (length > 0 && !known.has(`${to} ${from}`)) expect(rim(from) && rim(to)).toBe(true)
        },
      ),
      { numRuns: 40 },
    )
  })
  it('that is fine enough, or would become too fine, is left as it is', () => {
    const one = { positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0]), normals: new Float32Array(9) }
    expect(finer(one, 2, 1000)).toBe(one)
    expect(finer(one, 0.01, 3)).toBe(one)
  })
})
