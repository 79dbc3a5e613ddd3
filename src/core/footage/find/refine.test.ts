import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { seeded } from '../../random'
import { type ClipCut, cutCosts, Distances, type Found, findCuts, refined, type Seen } from '..'

const cut = (start: number, length = 20, cost = 0.4): ClipCut => ({ start, length, cost })
const found = (own: ClipCut, ...near: ClipCut[]): Found => ({ ...own, near })
/** Looks at cuts as they are told, by their first frame; keeps which were looked at. */
function looking(seams: Record<number, Seen>) {
  const looked: number[] = []
  const look = async ({ start }: ClipCut) => {
    looked.push(start)
    return seams[start] ?? { ratio: 9, verdict: 'jumps' as const }
  }
  return { look, looked }
}
const closes = { ratio: 1, verdict: 'closes' } as const
const jumps = (ratio: number) => ({ ratio, verdict: 'jumps' }) as const

describe('loops that were found, looked at', () => {
  it('are taken as they are where they close, and nothing near them is looked at', async () => {
    const { look, looked } = looking({ 0: closes })
    expect(await refined([found(cut(0), cut(3))], look)).toEqual([{ ...cut(0), ...closes }])
    expect(looked).toEqual([0])
  })
  it('give way to the first near them that closes, and stay where none does', async () => {
    const { look, looked } = looking({ 0: jumps(3), 3: jumps(2), 6: closes, 9: closes, 50: jumps(4), 53: jumps(2.5) })
    const all = await refined([found(cut(0), cut(3), cut(6), cut(9)), found(cut(50), cut(53), cut(56))], look)
    expect(all.map(({ start }) => start)).toEqual([6, 50])
    expect(looked).not.toContain(9)
  })
  it('come with those first that close, and not twice where two have become alike', async () => {
    const { look } = looking({ 0: jumps(3), 40: closes, 80: jumps(2), 42: closes })
    const all = await refined([found(cut(0)), found(cut(40)), found(cut(80), cut(42))], look)
    expect(all.map(({ start }) => start)).toEqual([40, 0])
  })
})

describe('cuts near a loop that was found', () => {
  // A value that swings, and stands out of step for some frames.
  const N = 90
  const clip = Array.from({ length: N }, (_, n) => ({
    width: 8,
    data: Uint8Array.from({ length: 8 * 8 * 4 }, (__, i) =>
      i % 4 === 3 ? 255 : 120 + 60 * Math.cos((2 * Math.PI * n) / 30 + (i >> 2) / 9) + (n % 7 === 0 ? 3 : 0),
    ),
  }))
  it('are told for cuts of any length, of clips of any', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 16 }),
        fc.integer({ min: 2, max: 4 }),
        fc.nat(999),
        (count, every, seed) => {
          const small = Array.from({ length: count }, (_, n) => ({
            width: 4,
            data: Uint8Array.from({ length: 64 }, (__, k) => 255 * seeded(seed, n % every, k)),
          }))
          const costs = cutCosts(new Distances(small), { least: 2, most: count, from: 0, to: count })
          for (const { near } of findCuts(costs, 8))
            for (const { start, length } of near) expect(start >= 0 && start + length <= count).toBe(true)
        },
      ),
    )
  })
  it('hold what it has to hold, lie in the bounds, and are hardly worse or longer', () => {
    const costs = cutCosts(new Distances(clip), { least: 8, most: 40, from: 5, to: 85 })
    const all = findCuts(costs, 4, 40, 30)
    expect(all.length).toBeGreaterThan(0)
    expect(all.some(({ near }) => near.length > 2)).toBe(true)
    for (const { near, ...own } of all)
      for (const { start, length, cost } of near) {
        expect(start).toBeGreaterThanOrEqual(5)
        expect(start + length).toBeLessThanOrEqual(85)
        expect(start <= 40 && start + length > 40).toBe(true)
        expect(Math.abs(length - own.length)).toBeLessThanOrEqual(1)
        expect(cost).toBeLessThanOrEqual(Math.max(0.15, own.cost) + 0.7)
      }
  })
})
