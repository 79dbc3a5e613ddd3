import { describe, expect, it } from 'vitest'
import { seeded } from '../../random'
import { clipPeriod, cutCosts, Distances, findCuts, type Glimpse } from '..'
import { passesIn, strangeIn } from './strange'

const ACROSS = 64
const DOWN = 36
const N = 150

/** A wall with grain; what is shown besides at a place and frame, by how much. */
const clip = (besides: (x: number, y: number, n: number) => number): Glimpse[] =>
  Array.from({ length: N }, (_, n) => ({
    width: ACROSS,
    data: Uint8Array.from({ length: 4 * ACROSS * DOWN }, (__, i) => {
      if (i % 4 === 3) return 255
      const x = (i >> 2) % ACROSS
      const y = Math.floor((i >> 2) / ACROSS)
      return 90 + 40 * seeded(3, x, y) + 4 * seeded(5, n, i) + besides(x, y, n)
    }),
  }))
/** A gull, two places wide, that flies over from a frame on. */
const gull = (from: number) => (x: number, y: number, n: number) =>
  Math.abs(x - 3 * (n - from)) < 1.5 && y === 8 ? 90 : 0
/** An awning that swings: a bar as wide as the picture, with a period of 30. */
const awning = (_x: number, y: number, n: number) =>
  Math.max(0, 70 - 12 * Math.abs(y - 24 - 5 * Math.sin((2 * Math.PI * n) / 30)))
const passing = (glimpses: readonly Glimpse[]) => passesIn(strangeIn(glimpses, 4))

describe('what only passes', () => {
  it('is told, though it be small, from what moves all the time', () => {
    const seen = passing(clip((x, y, n) => awning(x, y, n) + gull(60)(x, y, n)))
    for (const [n, is] of seen.entries()) {
      if (n >= 62 && n <= 79) expect(is).toBe(true)
      if (n < 58 || n > 84) expect(is).toBe(false)
    }
  })
  it('is not what comes again, nor what a camera shows when it shakes once', () => {
    const again = passing(clip((x, y, n) => gull(20)(x, y, n) + gull(100)(x, y, n)))
    expect(again).not.toContain(true)
    const shaken = passing(clip((x, _y, n) => (n === 70 && x % 5 === 0 ? 60 : 0)))
    expect(shaken).not.toContain(true)
    expect(passing(clip(() => 0))).not.toContain(true)
    expect(passing([])).toEqual([])
  })
  it('is kept out of loops where there are others', () => {
    const distances = new Distances(clip((x, y, n) => awning(x, y, n) + gull(40)(x, y, n)))
    const period = clipPeriod(distances)
    expect(period).toBe(30)
    const [best] = findCuts(cutCosts(distances, { least: 8, most: N, from: 0, to: N }), 3, null, period)
    expect((best?.length ?? 0) % 30).toBe(0)
    expect((best?.start ?? 0) + (best?.length ?? 0) <= 42 || (best?.start ?? 0) >= 60).toBe(true)
  })
})
