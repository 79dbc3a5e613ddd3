import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { seeded } from '../../random'
import { field, filmed, wall } from '../../testing/footage'
import {
  type ClipPlan,
  type ClipShape,
  grainIn,
  grainOf,
  type Mend,
  mendedPlan,
  mixFrame,
  piecesOf,
  plainPlan,
  sourcesOf,
} from '..'
import { readMends } from './kept'
import { MENDS } from './table'

const N = 24
const clip: ClipShape = { delaysMs: Array.from({ length: N }, () => 40), playsForever: true, means: [] }
const plan = (...mends: readonly Mend[]) => mendedPlan(clip, mends)
const numbers = (of: ClipPlan) => of.frames.map(sourcesOf)
const weights = (of: ClipPlan) => of.frames.map((frame) => piecesOf(frame)[0]?.parts.map(({ weight }) => weight) ?? [])

describe('ends that overlap', () => {
  const overlap: Mend = { kind: 'overlap', frames: 4, keepVariance: false }
  it('do so into what was cropped off before them, and the loop stays as long as it is', () => {
    const made = plan({ kind: 'crop', from: 6, to: 17 }, overlap)
    expect(made.frames).toHaveLength(12)
    expect(numbers(made).slice(0, 8)).toEqual([6, 7, 8, 9, 10, 11, 12, 13].map((n) => [n]))
    // f(n − N) leads to the first frame.
    expect(numbers(made).slice(8)).toEqual([
      [14, 2],
      [15, 3],
      [16, 4],
      [17, 5],
    ])
    const last = weights(made)
      .slice(8)
      .map(([, lead]) => lead as number)
    expect(last).toEqual([...last].sort((a, b) => a - b))
  })
  it('or out of what was cropped off after them', () => {
    const made = plan({ kind: 'crop', from: 2, to: 13 }, overlap)
    expect(made.frames).toHaveLength(12)
    expect(numbers(made).slice(0, 4)).toEqual([
      [14, 2],
      [15, 3],
      [16, 4],
      [17, 5],
    ])
    expect(numbers(made).slice(4)).toEqual([6, 7, 8, 9, 10, 11, 12, 13].map((n) => [n]))
  })
  it('or, where neither is there, into their own first frames', () => {
    expect(plan(overlap).frames).toHaveLength(N - 4)
    expect(numbers(plan(overlap)).at(-1)).toEqual([23, 3])
  })
})

describe('another pace', () => {
  it('takes as many frames as that needs, whole, each between those that it lies between, round the seam', () => {
    const cases = fc.record({
      speed: fc.double({ min: 0.2, max: 5, noNaN: true }),
      between: fc.constantFrom('flow' as const, 'blend' as const, 'hold' as const),
    })
    fc.assert(
      fc.property(cases, ({ speed, between }) => {
        const made = plan({ kind: 'pace', speed, between })
        const count = Math.max(2, Math.round(N / speed))
        expect(made.frames).toHaveLength(count)
        expect(made.delaysMs).toHaveLength(count)
        const step = N / count
        for (const [n, frame] of made.frames.entries()) {
          const [own] = piecesOf(frame)
          expect(own?.parts.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 9)
          const reach = between === 'hold' ? 0.5 : Math.max(1, step)
          for (const of of sourcesOf(frame)) {
            const off = (((of - n * step) % N) + N) % N
            expect(Math.min(off, N - off)).toBeLessThanOrEqual(reach + 1e-6)
          }
        }
      }),
    )
  })
  it('slower by whole times shows every frame that there was; reversed twice, all is as it was', () => {
    const slow = plan({ kind: 'pace', speed: 0.5, between: 'flow' })
    expect(numbers(slow).filter((_, n) => n % 2 === 0)).toEqual(Array.from({ length: N }, (_, n) => [n]))
    expect(piecesOf(slow.frames[1])[0]?.morph).toBe(true)
    expect(plan({ kind: 'reverse' }, { kind: 'reverse' })).toEqual(plainPlan(clip))
    expect(numbers(plan({ kind: 'reverse' }))[0]).toEqual([23])
  })
  it('faster shows what is passed over as blur: the mean of it', () => {
    const fast = plan({ kind: 'pace', speed: 3, between: 'blend' })
    expect(numbers(fast)[1]).toEqual([3, 4, 5])
    for (const weight of weights(fast)[1] ?? []) expect(weight).toBeCloseTo(1 / 3, 9)
  })
})

const noisy = (seed: number, deviation: number): Picture =>
  filmed(
    {
      width: 160,
      height: 90,
      frames: 1,
      seed,
      grain: deviation,
      looks: 1,
      scene: (x, y, _n, into) => wall(x, y, into),
    },
    seed,
  )
const lumaVariance = ({ width, data }: Picture, x0: number, x1: number, y0: number, y1: number) => {
  const values: number[] = []
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) values.push(data[4 * (y * width + x) + 1])
  const mean = values.reduce((a, b) => a + b, 0) / values.length
  return values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length
}
const half = (keepVariance: boolean, grain?: number, frames = [0, 1]) => ({
  parts: frames.map((frame) => ({ frame, weight: 0.5, gain: [1, 1, 1] as const })),
  keepVariance,
  ...(grain !== undefined && { grain: { deviation: grain, width: 160 } }),
})

describe('contrast that is kept', () => {
  /** Left half stands still, right half is foam that has nothing in common from one picture to the next. */
  const foam = (seed: number): Picture =>
    filmed(
      {
        ...{ width: 160, height: 90, frames: 1, seed, grain: 0, looks: 1 },
        scene(x, y, _n, into) {
          wall(x, y, into)
          if (x > 0) into.fill(120 + 60 * field(100 + seed, x * 30, y * 30))
        },
      },
      0,
    )
  it('is worked out of pictures of any shape, one px wide and hundreds high among them', () => {
    // Cells of a single px have no contrast that could be kept.
    for (const [width, height, gain] of [
      [1, 200, 1],
      [5, 400, 1],
      [160, 1200, 1.2],
    ] as const) {
      const noise = (seed: number): Picture => ({
        width,
        height,
        data: Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) =>
          i % 4 === 3 ? 255 : 255 * seeded(seed, i),
        ),
      })
      const pictures = [noise(1), noise(2)] as const
      const [a, b] = [half(false), half(true)].map((frame) =>
        lumaVariance(
          mixFrame(frame, (n) => pictures[n]),
          0,
          width,
          0,
          height,
        ),
      )
      expect(b).toBeGreaterThanOrEqual(gain * a)
    }
  })
  it('is that of both, within a few per cent, where they have nothing in common; what stands still is left as it is', () => {
    const sources = [foam(1), foam(2)] as const
    const kept = mixFrame(half(true), (n) => sources[n])
    const plain = mixFrame(half(false), (n) => sources[n])
    const right = (of: Picture) => lumaVariance(of, 90, 155, 5, 85)
    const wanted = (right(sources[0]) + right(sources[1])) / 2
    expect(Math.sqrt(right(plain) / wanted)).toBeLessThan(0.8)
    expect(Math.abs(Math.sqrt(right(kept) / wanted) - 1)).toBeLessThan(0.05)
    for (let y = 5; y < 85; y += 7)
      for (let x = 5; x < 60; x += 7) {
        const i = 4 * (y * 160 + x)
        expect(Math.abs(kept.data[i] - sources[0].data[i])).toBeLessThanOrEqual(4)
      }
  })
})

describe('grain', () => {
  it('is measured, whatever it lies on', () => {
    fc.assert(
      fc.property(fc.double({ min: 2, max: 10, noNaN: true }), fc.nat(500), (deviation, seed) => {
        const found = grainOf(noisy(seed, deviation), noisy(seed + 700, deviation))
        expect(Math.abs(found / deviation - 1)).toBeLessThan(0.12)
      }),
      { numRuns: 20 },
    )
  })
  it('is a fact of a clip; of what has none there is nothing to lay', () => {
    const grainy = grainIn([1, 2, 3, 4, 5, 6].map((seed) => noisy(seed, 6)))
    expect(Math.abs((grainy?.deviation ?? 0) / 6 - 1)).toBeLessThan(0.12)
    expect(grainy?.width).toBe(160)
    expect(grainIn([1, 2, 3].map((seed) => noisy(seed, 0)))).toBeUndefined()
    expect(grainIn([noisy(1, 6)])).toBeUndefined()
    // All that is made of the clip knows of it.
    const overlap: Mend = { kind: 'overlap', frames: 4, keepVariance: false }
    for (const frame of mendedPlan({ ...clip, grain: grainy }, [overlap]).frames)
      expect(frame).toMatchObject({ grain: grainy })
  })
  it('is laid where contrast is kept or ends are morphed, too; smaller pictures have less of it', () => {
    const sources = [1, 2, 3, 4].map((seed) => noisy(seed, 6)) as [Picture, Picture, Picture, Picture]
    for (const more of [{ keepVariance: true }, { morph: true }]) {
      const [one, other] = [
        [0, 1],
        [2, 3],
      ].map((frames) => mixFrame({ ...half(false, 6, frames), ...more }, (n) => sources[n])) as [Picture, Picture]
      expect(Math.abs(grainOf(one, other) / 6 - 1)).toBeLessThan(0.15)
    }
    const laid = (width: number) => {
      const grey = { width: 80, height: 45, data: new Uint8ClampedArray(4 * 80 * 45).fill(128) }
      const at = (frames: number[]) =>
        mixFrame({ ...half(false, 0, frames), grain: { deviation: 8, width } }, () => grey)
      return grainOf(at([0, 1]), at([2, 3]))
    }
    expect(laid(160) / laid(80)).toBeCloseTo(0.5, 1)
  })
  it('that mixing has smoothed is laid anew, as much as there was', () => {
    const sources = [1, 2, 3, 4].map((seed) => noisy(seed, 6)) as [Picture, Picture, Picture, Picture]
    const mixed = (grain?: number) =>
      [
        [0, 1],
        [2, 3],
      ].map((frames) => mixFrame(half(false, grain, frames), (n) => sources[n])) as [Picture, Picture]
    expect(grainOf(...mixed()) / 6).toBeLessThan(0.8)
    expect(Math.abs(grainOf(...mixed(6)) / 6 - 1)).toBeLessThan(0.1)
    // A frame that is as it came keeps its own.
    const whole = plainPlan({ ...clip, grain: { deviation: 6, width: 160 } })
    expect(mixFrame(whole.frames[0], () => sources[0])).toBe(sources[0])
  })
})

describe('mends that are kept', () => {
  it('are read back as they were, and what is none is not', () => {
    const mends: readonly Mend[] = [
      { kind: 'steady', model: 'similarity' },
      { kind: 'even-light' },
      { kind: 'crop', from: 2, to: 20 },
      { kind: 'drop', frames: [3] },
      { kind: 'overlap', frames: 4, keepVariance: false, morph: true },
      {
        kind: 'parts',
        length: 8,
        map: { across: 2, down: 1, labels: '01' },
        loops: [
          { start: 0, period: 8, overlap: 0 },
          { start: 0, period: 1, overlap: 0 },
        ],
      },
      { kind: 'pace', speed: 0.5, between: 'flow' },
      { kind: 'reverse' },
      { kind: 'there-and-back' },
      { kind: 'even-exposure' },
      { kind: 'even-delays' },
      { kind: 'slower', delayMs: 40 },
      { kind: 'last', seconds: 2 },
      { kind: 'for-ever' },
      { kind: 'same-edge', ground: [255, 255, 255] },
      { kind: 'matte', colour: [10, 20, 30] },
    ]
    expect(readMends(JSON.parse(JSON.stringify({ mends, undone: [mends[0]] })))).toEqual({ mends, undone: [mends[0]] })
    expect(new Set(mends.map(({ kind }) => kind))).toEqual(new Set(Object.keys(MENDS)))
    for (const mend of mends) expect(MENDS[mend.kind].schema.safeParse(mend).data, mend.kind).toEqual(mend)
    const parts = mends[5] as Extract<Mend, { kind: 'parts' }>
    for (const bad of [
      { ...parts, map: { ...parts.map, labels: '02' } },
      { ...parts, map: { ...parts.map, across: 3 } },
      { kind: 'pace', speed: 0, between: 'flow' },
      { kind: 'unheard of' },
    ])
      expect(readMends({ mends: [bad], undone: [] })).toBeNull()
    expect(readMends(null)).toBeNull()
    // Grain was a mend once.
    expect(readMends({ mends: [{ kind: 'grain', deviation: 3 }, mends[1]], undone: [] })).toEqual({
      mends: [mends[1]],
      undone: [],
    })
  })
})
