import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { seeded } from '../../random'
import { CLIP_KINDS, isFound, knownClip } from '../../testing/clips'
import { clipPeriod, cutCosts, cutMap, Distances, findCuts, glimpseOf } from '..'

const WIDTH = 64
const HEIGHT = 40

/** A buoy circling on a sea with grain, after the given number of turns. */
function buoyAt(turns: number, grain: number, seed: number): Picture {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT)
  const cx = 32 + 18 * Math.cos(2 * Math.PI * turns)
  const cy = 20 + 12 * Math.sin(2 * Math.PI * turns)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const i = 4 * (y * WIDTH + x)
      const noise = grain * (seeded(seed, i) - 0.5)
      const lit = Math.max(0, 1 - Math.hypot(x - cx, y - cy) / 9)
      data.set([20 + 200 * lit + noise, 60 + 40 * lit + noise, 90 + 2 * y + noise, 255], i)
    }
  return { width: WIDTH, height: HEIGHT, data }
}
const distancesOf = (pictures: readonly Picture[]) => new Distances(pictures.map(glimpseOf))
const cutsOf = (distances: Distances, wanted: Parameters<typeof cutCosts>[1], most: number, holds?: number) =>
  findCuts(cutCosts(distances, wanted), most, holds)
const anything = (frames: number) => ({ least: 4, most: frames, from: 0, to: frames })

describe('a sketch of a frame', () => {
  it('is as far from another as the frames are, within a third', () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.double({ min: 0.05, max: 0.5, noNaN: true }), (seed, turns) => {
        const a = buoyAt(0, 8, seed)
        const b = buoyAt(turns, 8, seed + 1)
        const exact = Math.sqrt(a.data.reduce((sum, x, i) => sum + (x - b.data[i]) ** 2, 0) / a.data.length)
        const told = Math.sqrt(distancesOf([a, b]).at(0, 1))
        expect(told / exact).toBeGreaterThan(2 / 3)
        expect(told / exact).toBeLessThan(4 / 3)
      }),
      { numRuns: 60 },
    )
  })
})

describe('loops in a clip', () => {
  const hidden = fc.record({
    before: fc.integer({ min: 0, max: 4 }),
    period: fc.integer({ min: 12, max: 30 }),
    after: fc.integer({ min: 0, max: 4 }),
    seed: fc.nat(1000),
  })
  // A thing that leaps by more than its own size is as far from where it was as from anywhere: paces are such that it does not.
  it('are found where one lies hidden: it comes back there, and nowhere else', () => {
    fc.assert(
      fc.property(hidden, ({ before, period, after, seed }) => {
        // On its way it goes once round, and drifts off before and after that.
        const turns = [
          ...Array.from({ length: before }, (_, n) => ({ at: 0, away: (before - n) / 2 })),
          ...Array.from({ length: period + 1 }, (_, n) => ({ at: n / period, away: 0 })),
          ...Array.from({ length: after }, (_, n) => ({ at: 0, away: -(n + 1) / 2 })),
        ]
        const pictures = turns.map(({ at, away }, n) => {
          const { data, ...size } = buoyAt(at, 4, seed + n)
          return { ...size, data: data.map((x, i) => (i % 4 === 1 ? x + 40 * away : x)) }
        })
        const [best] = cutsOf(distancesOf(pictures), { ...anything(pictures.length), least: 6 }, 5)
        expect(best?.length).toBeGreaterThanOrEqual(period - 1)
        expect(best?.length).toBeLessThanOrEqual(period + 1)
        expect(Math.abs((best?.start ?? 99) - before)).toBeLessThanOrEqual(1)
      }),
      { numRuns: 60 },
    )
  })
  it('of what goes round again and again are whole periods, and the period is told', () => {
    fc.assert(
      fc.property(fc.integer({ min: 14, max: 24 }), fc.nat(1000), (period, seed) => {
        const pictures = Array.from({ length: 3 * period + 5 }, (_, n) => buoyAt(n / period, 4, seed + n))
        const distances = distancesOf(pictures)
        expect(clipPeriod(distances)).toBe(period)
        const cuts = cutsOf(distances, { ...anything(pictures.length), least: period - 2 }, 8)
        expect(cuts.length).toBeGreaterThanOrEqual(2)
        for (const { length } of cuts) expect(length % period).toBe(0)
      }),
      { numRuns: 40 },
    )
  })
  it('keep to the bounds that are asked for', () => {
    const pictures = Array.from({ length: 70 }, (_, n) => buoyAt(n / 10, 4, n))
    const wanted = { least: 15, most: 35, from: 12, to: 60 }
    const cuts = cutsOf(distancesOf(pictures), wanted, 20)
    expect(new Set(cuts.map(({ length }) => length))).toEqual(new Set([20, 30]))
    for (const { start, length } of cuts) {
      expect(start).toBeGreaterThanOrEqual(12)
      expect(start + length).toBeLessThanOrEqual(60)
    }
  })
  it('hold a frame that is to be in them, and lie in the valleys of the map', () => {
    const pictures = Array.from({ length: 60 }, (_, n) => buoyAt(n / 15, 4, n))
    const distances = distancesOf(pictures)
    const cuts = cutsOf(distances, anything(60), 10, 57)
    expect(cuts.length).toBeGreaterThan(0)
    for (const { start, length } of cuts) expect(start <= 57 && start + length > 57).toBe(true)
    const { across, down, cells } = cutMap(cutCosts(distances, anything(60)), { across: 20, down: 14 })
    expect([across, down, cells.length]).toEqual([20, 14, 280])
    const cheap = cells.filter((cell) => cell && cell.cost < 0.3)
    expect(cheap.length).toBeGreaterThan(5)
    for (const cell of cheap) expect((cell?.length ?? 1) % 15).toBe(0)
  })
  it('are none where nothing moves, or it only goes away', () => {
    const still = Array.from({ length: 40 }, () => buoyAt(0, 4, 1))
    expect([cutsOf(distancesOf(still), anything(40), 5), clipPeriod(distancesOf(still))]).toEqual([[], null])
    const going = Array.from({ length: 40 }, (_, n) => buoyAt(n / 90, 2, n))
    expect([cutsOf(distancesOf(going), anything(40), 5), clipPeriod(distancesOf(going))]).toEqual([[], null])
  })
  it('is the whole clip where that is one already', () => {
    const pictures = Array.from({ length: 24 }, (_, n) => buoyAt(n / 24, 4, n))
    expect(cutsOf(distancesOf(pictures), anything(24), 3)[0]).toMatchObject({ start: 0, length: 24 })
  })
  // The whole corpus, ten seeds of each, is in docs/performance.md.
  it.each(CLIP_KINDS)('are as they are known to be: %s', (kind) => {
    expect(isFound(knownClip(kind, 1))).toBe(true)
  })
})
