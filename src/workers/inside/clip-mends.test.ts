import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Mend } from '@/core/footage'
import { describeFrame } from '@/core/seam'
import { field, filmed, wall } from '@/core/testing/footage'
import { mendService, stopMending } from './clip-mends'
import { type ClipFacts, holdClip, type OpenClip } from './held-clip'

const N = 64
const PERIOD = 16
/** A lamp goes round before a wall, and foam below it never comes back. */
const pictures = Array.from({ length: N }, (_, n) =>
  filmed(
    {
      ...{ width: 96, height: 54, frames: N, seed: 6, grain: 4, looks: 1 },
      scene(x, y, at, into) {
        wall(x, y, into)
        if (y > 0.12) into.fill(120 + 70 * field(9, x * 14 + at * 0.05, y * 20 + at * 0.05, at / 6))
        const angle = (2 * Math.PI * at) / PERIOD
        if (Math.hypot(x - 0.2 * Math.cos(angle), y + 0.08 - 0.08 * Math.sin(angle)) < 0.07) into.set([240, 210, 110])
      },
    },
    n,
  ),
)
const shape = { delaysMs: pictures.map(() => 40), playsForever: true, means: [] }
const crop: Mend = { kind: 'crop', from: 4, to: 4 + PERIOD - 1 }
const overlap: Mend = { kind: 'overlap', frames: 5, keepVariance: true }
const quiet = () => {}

beforeEach(() => {
  const facts = { width: 96, height: 54, claims: { width: 96, height: 54 } } as unknown as ClipFacts
  const opened = {
    width: 96,
    height: 54,
    async *frames(_width: number, _height: number, wanted: readonly number[]) {
      for (const n of wanted) yield { n, picture: pictures[n], delayMs: 40 }
    },
  }
  const described = pictures.map((picture) => describeFrame(picture))
  holdClip({ files: [], facts, shape, opened, pictures, described } as unknown as OpenClip)
})

describe('mends of the clip that is held', () => {
  it('are worked out and judged; what is cancelled is said to be', async () => {
    const { plan, report, steadied } = await mendService.mended([crop, overlap], quiet)
    expect([plan.frames.length, report.seam.verdict, steadied]).toEqual([PERIOD, 'closes', []])
    const tell = vi.fn()
    const stopped = mendService.mended([{ kind: 'steady', model: 'shift' }], tell)
    stopMending()
    await expect(stopped).rejects.toThrow('It was cancelled.')
    const whole = await mendService.mended([{ kind: 'steady', model: 'shift' }], tell)
    expect(whole.steadied).toHaveLength(1)
    expect(tell).toHaveBeenCalledWith({ done: N, of: 3 * N })
  })
  it('that are previewed give way to the next one', async () => {
    const morph: Mend = { kind: 'overlap', frames: 24, keepVariance: false, morph: true }
    const first = mendService.previewed([morph])
    const second = mendService.previewed([crop])
    await expect(first).rejects.toThrow('Another preview')
    expect((await second).plan.frames).toHaveLength(PERIOD)
  })
})

describe('ways to close the clip', () => {
  it('are seen small, with their verdicts; no more of their frames than are shown', async () => {
    const list = mendService.askWays()
    const back = await mendService.way(list, [{ kind: 'there-and-back' }], 32)
    expect([back.length, back.verdict, back.frames.length]).toEqual([2 * N - 2, 'closes', 60])
    for (const { width, height } of back.frames) expect([width, height]).toEqual([32, 18])
    const own = await mendService.way(list, [crop, overlap], 32)
    expect([own.length, own.frames.length]).toEqual([PERIOD, PERIOD])
  })
  it('are left when others are asked for', async () => {
    const list = mendService.askWays()
    const old = mendService.way(list, [{ kind: 'overlap', frames: 20, keepVariance: false, morph: true }], 32)
    const parts = mendService.parts(list, [], { least: 8, length: null, amount: 0.5 })
    mendService.askWays()
    await expect(old).rejects.toThrow('Other ways')
    await expect(parts).rejects.toThrow('Other ways')
  })
  it('in parts: each region comes home in its own time, and the whole closes', async () => {
    const list = mendService.askWays()
    const { regions, energy, single } = await mendService.parts(list, [], { least: 8, length: 48, amount: 0.6 })
    expect([regions.length, energy < single]).toEqual([48, true])
    const seen = await mendService.way(list, [regions], 32)
    expect([seen.length, seen.verdict]).toEqual([48, 'closes'])
    await expect(
      mendService.parts(list, [{ kind: 'crop', from: 0, to: 2 }], { least: 8, length: null, amount: 0.5 }),
    ).rejects.toThrow('too few frames')
  })
})

describe('what is found in the clip', () => {
  it('are the loops in it between bounds, and where it moves', async () => {
    const all = { least: 8, most: N, from: 0, to: N - 1, holds: null }
    const upper: Mend = { kind: 'even-light' }
    const { cuts } = await mendService.loops([upper], { ...all, from: 20, to: 60 })
    for (const { start, length } of cuts) expect(start >= 20 && start + length <= 61).toBe(true)
    const { across, down, cells } = await mendService.moving([])
    expect(cells).toHaveLength(across * down)
    // The wall in the upper corner stands still; the foam at the bottom does not.
    expect(cells[0]).toBe(false)
    expect(cells.slice(-across).filter(Boolean).length).toBeGreaterThan(0.8 * across)
  })
})
