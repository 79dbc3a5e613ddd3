import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layerKind } from '../layers'
import { anyMotion } from '../testing/arbitrary'
import { curveValue, type Motion, mixNumbers, motionValue } from '.'

const x = layerKind('ellipse').properties.x as never

/**
 * Value of a motion at a position in its cycles, the long way: cycle by cycle from the first on, forwards or backwards,
 * using only the curve of one cycle.
 */
function reference(motion: Motion<number>, q: number): number {
  const curve = (u: number) => curveValue(motion, u, mixNumbers)
  const way = (motion.keys.at(-1)?.value ?? 0) - (motion.keys[0]?.value ?? 0)
  let left = q
  let carried = 0
  let back = false
  while (left >= 1 || left < 0) {
    if (motion.after === 'once') return curve(left < 0 ? 0 : 1)
    const direction = left >= 1 ? 1 : -1
    left -= direction
    carried += direction * way
    back = !back
  }
  switch (motion.after) {
    case 'accumulate':
      return curve(left) + carried
    case 'alternate':
      return curve(back ? 1 - left : left)
    default:
      return curve(left)
  }
}

describe('every rule after each cycle', () => {
  it.each(['repeat', 'accumulate', 'alternate', 'once'] as const)(
    '%s is what a plain reference says, on both sides of the keys',
    (after) => {
      fc.assert(
        fc.property(
          anyMotion(x) as fc.Arbitrary<Motion<number>>,
          fc.integer({ min: -600_000, max: 600_000 }).map((n) => (n + 0.37) / 100_000),
          fc.integer({ min: 2, max: 200 }),
          (random, q, length) => {
            const keys = random.keys.map((key) => ({
              ...key,
              at: after === 'repeat' ? Math.min(key.at, 23 / 24) : key.at,
            }))
            const motion: Motion<number> = {
              ...random,
              after,
              keys: keys.filter((key, i) => key.at !== keys[i - 1]?.at),
            }
            // At the edge of a cycle or step, rounding alone may decide.
            fc.pre(Math.abs(q * 24 - Math.round(q * 24)) > 1e-6)
            const period = 'cycles' in motion.period ? length / motion.period.cycles : motion.period.frames
            const frame = (q - motion.phase) * period
            const found = motionValue(motion, frame, length, mixNumbers)
            const steps = motion.keys.some(({ ease }) => /step/.test(ease))
            if (!steps) expect(found).toBeCloseTo(reference(motion, q), 4)
            else if (Math.abs(found - reference(motion, q)) > 1e-4) {
              const near = [q - 1e-6, q + 1e-6].map((each) => reference(motion, each))
              expect(near.some((each) => Math.abs(each - found) < 1e-3)).toBe(true)
            }
          },
        ),
      )
    },
  )
})
