import { beforeEach, describe, expect, it, vi } from 'vitest'
import { type Mend, mendedPlan } from '@/core/footage'
import type { Picture } from '@/core/image'
import { describeFrame } from '@/core/seam'
import { field, filmed, wall } from '@/core/testing/footage'
import {
  type ClipFacts,
  heldReport,
  holdClip,
  learnedFor,
  type OpenClip,
  reducedSource,
  smallSource,
} from './held-clip'

const N = 12
const pictures = Array.from({ length: N }, (_, n) =>
  filmed(
    {
      ...{ width: 96, height: 54, frames: N, seed: 2, grain: 2, looks: 1 },
      view: (at) => [1, 0, 0.01 * field(4, at * 0.7, 0.5), 0, 1, 0.01 * field(5, at * 0.7, 0.5), 0, 0, 1],
      light: (at) => 1 + 0.1 * Math.sin(at),
      scene: (x, y, _n, into) => wall(x, y, into),
    },
    n,
  ),
)
const shape = { delaysMs: pictures.map(() => 40), playsForever: true, means: [] }
const steady: Mend = { kind: 'steady', model: 'shift' }
const light: Mend = { kind: 'even-light' }
const planOf = (...mends: readonly Mend[]) => mendedPlan(shape, mends)

/** The clip as a worker holds it; its frames are read from the file only where they are asked for at full size. */
function open(): OpenClip {
  const facts = { width: 96, height: 54, claims: { width: 96, height: 54 } } as unknown as ClipFacts
  const held = {
    files: [],
    facts,
    shape,
    pictures,
    described: pictures.map((picture) => describeFrame(picture)),
  } as unknown as OpenClip
  holdClip(held)
  return held
}
const change = (a: Picture, b: Picture) =>
  a.data.reduce((sum, value, i) => sum + Math.abs(value - (b.data[i] as number)), 0) / a.data.length

describe('what is learned of a clip', () => {
  beforeEach(() => void open())
  it('is learned once, whoever asks, and for each list of edits apart', async () => {
    const [first, second] = await Promise.all([learnedFor(planOf(steady), false), learnedFor(planOf(steady), false)])
    expect(second[0]).toBe(first[0])
    const both = await learnedFor(planOf(steady, light), false)
    expect(both[0]).toBe(first[0])
    const other = await learnedFor(planOf(light, steady), false)
    expect(other[1]).not.toBe(first[0])
    // A crop afterwards changes nothing of what was learned.
    expect((await learnedFor(planOf(steady, { kind: 'crop', from: 2, to: 8 }), false))[0]).toBe(first[0])
  })
  it('goes on for those who wait, where one of them gives up', async () => {
    const gone = learnedFor(planOf(steady), false, () => {
      throw new Error('Another preview was asked for.')
    })
    const tell = vi.fn()
    const stays = learnedFor(planOf(steady), false, tell)
    await expect(gone).rejects.toThrow('Another preview')
    expect((await stays)[0]?.steadied?.after).toBeLessThan(0.5 * ((await stays)[0]?.steadied?.before ?? 0))
    expect(tell).toHaveBeenCalled()
  })
  it('is given up where nobody waits any more, and begun anew when it is asked for', async () => {
    let told = 0
    const stop = learnedFor(planOf(steady), false, () => {
      if (++told === 3) throw new Error('It was cancelled.')
    })
    await expect(stop).rejects.toThrow('cancelled')
    const before = told
    await new Promise((resolve) => setTimeout(resolve, 60))
    expect(told).toBe(before)
    expect((await learnedFor(planOf(steady), false))[0]?.steadied).toBeDefined()
  })
  it('is told again where it cannot be learned, and is another for another clip', async () => {
    const plain = pictures.map(({ width, height }) => ({
      width,
      height,
      data: new Uint8ClampedArray(4 * width * height).fill(255),
    }))
    holdClip({ ...open(), pictures: plain })
    for (const _ of [1, 2]) await expect(learnedFor(planOf(steady), false)).rejects.toThrow('too plain')
    open()
    expect((await learnedFor(planOf(steady), false))[0]?.steadied).toBeDefined()
  })
})

describe('a clip looked at small', () => {
  it('is edited as it is at its full size', async () => {
    const held = open()
    const learned = await learnedFor(planOf(steady, light), false)
    const small = smallSource(held, learned, 20)
    const none = smallSource(held, [], 20)
    expect([small(3).width, none(3)]).toEqual([60, pictures[3]])
    // Shake and flicker are gone: all frames are alike except for grain.
    expect(change(small(2), small(7))).toBeLessThan(0.6 * change(none(2), none(7)))
    const reduced = reducedSource(held, learned, 20)
    expect(reduced(4)).toBe(reduced(4))
    expect(reducedSource(held, learned, 20)(4)).toBe(reduced(4))
    expect(reduced(4).width).toBe(20)
  })
  it('is judged with its mends, and stops where it is told to', async () => {
    const held = open()
    const plan = planOf(steady, light)
    const learned = await learnedFor(plan, false)
    const before = await heldReport(planOf(), held, [])
    const after = await heldReport(plan, held, learned)
    expect(after.seam.seamStep).toBeLessThan(before.seam.seamStep)
    const morphs = planOf({ kind: 'overlap', frames: 4, keepVariance: false, morph: true })
    const stopped = heldReport(
      morphs,
      { ...held, pictures: pictures.map((each) => ({ ...each })) },
      learned,
      async () => {
        throw new Error('Another preview was asked for.')
      },
    )
    await expect(stopped).rejects.toThrow('Another preview')
  })
})
