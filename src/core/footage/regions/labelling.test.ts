import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { seeded } from '../../random'
import type { Cells } from '../look/cells'
import { Labelling } from './labelling'
import type { OwnLoop } from './own-loop'

const FRAMES = 12
const EACH = 3
/** Loops that all go into six frames; the last one stands still. */
const LOOPS: readonly OwnLoop[] = [
  { start: 2, period: 6, overlap: 0 },
  { start: 4, period: 3, overlap: 0 },
  { start: 0, period: 6, overlap: 0 },
  { start: 2, period: 1, overlap: 0 },
]
const still = async () => {}

/** Cells that change as they like. */
const cellsOf = (across: number, down: number, seed: number): Cells => ({
  across,
  down,
  each: EACH,
  frames: Array.from({ length: FRAMES }, (_, n) =>
    Uint8Array.from({ length: across * down * EACH }, (_, i) => 100 + 90 * seeded(seed, n >> (i % 2), i)),
  ),
})
const shapes = fc.record({
  across: fc.integer({ min: 1, max: 6 }),
  down: fc.integer({ min: 1, max: 5 }),
  seed: fc.nat(9999),
  amount: fc.constantFrom(0, 0.3, 0.6, 1),
})

/** The least energy of all labellings there are. */
function least(labelling: Labelling, count: number): number {
  const labels = new Uint8Array(count)
  let best = Infinity
  for (let code = 0; code < LOOPS.length ** count; code++) {
    for (let cell = 0, rest = code; cell < count; cell++, rest = Math.floor(rest / LOOPS.length))
      labels[cell] = rest % LOOPS.length
    best = Math.min(best, labelling.energy(labels))
  }
  return best
}

describe('labels of cells', () => {
  it('never cost more than those that they were begun with, and settle', async () => {
    await fc.assert(
      fc.asyncProperty(shapes, fc.nat(3), async ({ across, down, seed, amount }, first) => {
        const labelling = new Labelling(cellsOf(across, down, seed), LOOPS, 6, amount)
        const from = new Uint8Array(across * down).fill(first)
        const once = await labelling.settle(from, null, still)
        expect(labelling.energy(once)).toBeLessThanOrEqual(labelling.energy(from) + 1e-6)
        expect(labelling.energy(await labelling.settle(once, null, still))).toBeLessThanOrEqual(
          labelling.energy(once) + 1e-6,
        )
      }),
      { numRuns: 60 },
    )
  })
  it('come to the least there is in most cases, from the best of what they are begun with', async () => {
    const ratios: number[] = []
    for (let seed = 0; seed < 12; seed++) {
      const [across, down] = seed % 2 === 0 ? [3, 2] : [6, 1]
      const labelling = new Labelling(cellsOf(across, down, seed), LOOPS, 6, 0.6)
      const found: number[] = []
      for (const label of LOOPS.keys()) {
        const settled = await labelling.settle(new Uint8Array(across * down).fill(label), null, still)
        found.push(labelling.energy(settled))
      }
      const best = least(labelling, across * down)
      expect(Math.min(...found)).toBeGreaterThanOrEqual(best - 1e-6)
      ratios.push(Math.min(...found) / best)
    }
    expect(ratios.filter((ratio) => ratio < 1 + 1e-9).length).toBeGreaterThanOrEqual(9)
    // One loop after the other may get stuck where two would have to change at once.
    expect(Math.max(...ratios)).toBeLessThan(2)
  })
  it('change nowhere but where they may', async () => {
    await fc.assert(
      fc.asyncProperty(shapes, fc.nat(999), async ({ across, down, seed, amount }, mask) => {
        const labelling = new Labelling(cellsOf(across, down, seed), LOOPS, 6, amount)
        const from = Uint8Array.from({ length: across * down }, (_, cell) => Math.floor(4 * seeded(mask, cell)))
        const free = Uint8Array.from({ length: across * down }, (_, cell) => (seeded(mask + 1, cell) < 0.5 ? 1 : 0))
        const settled = await labelling.settle(from, free, still)
        for (const [cell, label] of settled.entries()) if (!free[cell]) expect(label).toBe(from[cell])
      }),
      { numRuns: 40 },
    )
  })
  it('stop where they are told to', async () => {
    const labelling = new Labelling(cellsOf(4, 4, 1), LOOPS, 6, 0.5)
    const stopped = labelling.settle(new Uint8Array(16), null, async () => {
      throw new Error('Other ways were asked for.')
    })
    await expect(stopped).rejects.toThrow('Other ways')
  })
})
