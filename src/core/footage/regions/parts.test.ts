import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { describeFrame, judgeDescribed } from '../../seam'
import { field, filmed, wall } from '../../testing/footage'
import {
  applyMend,
  eachPatch,
  labelsOf,
  MAX_PART_FRAMES,
  mixFrame,
  PartsFinder,
  type PartsWanted,
  patchMap,
  plainPlan,
  type Regions,
  sourcesOf,
} from '..'

type Scene = Parameters<typeof filmed>[0]['scene']
const clipOf = (frames: number, scene: Scene) =>
  Array.from({ length: frames }, (_, n) =>
    filmed({ width: 160, height: 90, frames, seed: 3, grain: 3, looks: 1, scene }, n),
  )
const finderOf = (pictures: readonly Picture[]) => {
  const finder = new PartsFinder()
  for (const picture of pictures) finder.add(picture)
  return finder
}
const find = async (pictures: readonly Picture[], wanted: Partial<PartsWanted> = {}) => {
  return finderOf(pictures).find({ least: 10, length: null, amount: 0.5, ...wanted })
}
const shapeOf = (pictures: readonly Picture[]) => ({
  delaysMs: pictures.map(() => 40),
  playsForever: true,
  means: [],
})
const made = (pictures: readonly Picture[], regions: Regions) => {
  const shape = shapeOf(pictures)
  return applyMend(plainPlan(shape), regions, shape).frames.map((frame) => mixFrame(frame, (n) => pictures[n]))
}
const verdictOf = (pictures: readonly Picture[]) =>
  judgeDescribed(pictures.map((picture) => describeFrame(picture))).verdict

/** Two lamps before a wall, each with a period of its own. */
const twoLamps = clipOf(140, (x, y, n, into) => {
  wall(x, y, into)
  const a = (2 * Math.PI * n) / 20
  const b = (2 * Math.PI * n) / 30
  if (Math.hypot(x + 0.25 - 0.08 * Math.cos(a), y - 0.08 * Math.sin(a)) < 0.06) into.set([240, 220, 120])
  if (Math.hypot(x - 0.25, y - 0.1 * Math.sin(b)) < 0.07) into.set([200, 60, 50])
})
/** A wall, and foam below it that never comes back. */
const foam = clipOf(90, (x, y, n, into) => {
  wall(x, y, into)
  if (y < 0.05) return
  const light = 120 + 70 * field(9, x * 14 + n * 0.05, y * 20 + n * 0.03, n / 8)
  into.set([0.7 * light, 0.9 * light, light])
})

describe('regions with loops of their own', () => {
  it('come home together where each of them does', async () => {
    const { regions, energy, single } = await find(twoLamps)
    expect(regions.length % 20).toBe(0)
    expect(regions.length % 30).toBe(0)
    expect(energy).toBeLessThan(single)
    expect(verdictOf(made(twoLamps, regions))).toBe('closes')
  })
  it('close what never comes back, far better than its best single cut', async () => {
    const { regions, energy, single } = await find(foam)
    expect(energy).toBeLessThan(0.9 * single)
    expect(verdictOf(made(foam, regions))).toBe('closes')
    // The wall stands still, and weighs nothing.
    const labels = labelsOf(regions.map)
    const upper = [...labels].filter((_, cell) => Math.floor(cell / regions.map.across) < 0.5 * regions.map.down)
    expect(upper.filter((label) => regions.loops[label]?.period === 1).length).toBeGreaterThan(0.8 * upper.length)
  })
  it('move the less, the less is to move; at nothing all stands still', async () => {
    const moving = async (amount: number) => {
      const { regions } = await find(foam, { amount, length: 40 })
      expect(regions.length).toBe(40)
      return [...labelsOf(regions.map)].filter((label) => (regions.loops[label]?.period ?? 1) > 1).length
    }
    const none = await moving(0)
    const some = await moving(0.3)
    const all = await moving(1)
    const { energy, single } = await find(twoLamps.slice(0, 60), { amount: 1 })
    expect(Number.isFinite(energy) && Number.isFinite(single)).toBe(true)
    expect(none).toBe(0)
    expect(some).toBeLessThanOrEqual(all)
    expect(all).toBeGreaterThan(0)
  })
  it('are never worse than the best single cut, by their energy, and show frames of the clip alone', async () => {
    const clips = fc.record({ seed: fc.nat(99), speed: fc.double({ min: 0.02, max: 0.4, noNaN: true }) })
    await fc.assert(
      fc.asyncProperty(clips, async ({ seed, speed }) => {
        const pictures = clipOf(36, (x, y, n, into) =>
          into.fill(120 + 90 * field(seed, x * 6 + n * speed, y * 6, n * speed)),
        )
        const { regions, energy, single } = await find(pictures, { least: 6 })
        expect(energy).toBeLessThanOrEqual(single)
        const plan = applyMend(plainPlan(shapeOf(pictures)), regions, shapeOf(pictures))
        expect(plan.frames).toHaveLength(regions.length)
        for (const frame of plan.frames) for (const n of sourcesOf(frame)) expect(n >= 0 && n < 36).toBe(true)
      }),
      { numRuns: 6 },
    )
  })
  it('are told coarsely first; asked for again, they are as if they had been asked for first, also after one was left', async () => {
    const finder = finderOf(foam)
    const stop = async () => {
      throw new Error('left')
    }
    await expect(finder.find({ least: 10, length: 40, amount: 0.5 }, stop)).rejects.toThrow('left')
    for (const wanted of [
      { least: 10, length: 40, amount: 0.7 },
      { least: 10, length: null, amount: 0.2 },
      { least: 14, length: 40, amount: 0.7 },
    ]) {
      const rough: Regions[] = []
      const found = await finder.find(wanted, undefined, (regions) => rough.push(regions))
      expect(found).toEqual(await find(foam, wanted))
      expect(rough).toHaveLength(1)
      expect(rough[0]?.length).toBe(found.regions.length)
      const plan = plainPlan(shapeOf(foam))
      expect(applyMend(plan, rough[0], shapeOf(foam))).not.toBe(plan)
    }
  })
  it('need frames enough, and not too many', async () => {
    await expect(find(foam.slice(0, 3))).rejects.toThrow('too few')
    const finder = new PartsFinder()
    const [picture] = foam as [Picture]
    for (let n = 0; n < MAX_PART_FRAMES; n++) finder.add(picture)
    expect(() => finder.add(picture)).toThrow('Crop it first')
  })
  it('change nothing where they do not fit the clip', () => {
    const shape = shapeOf(foam.slice(0, 20))
    const regions: Regions = {
      kind: 'parts',
      length: 12,
      map: patchMap(1, 1, [0]),
      loops: [{ start: 10, period: 12, overlap: 0 }],
    }
    expect(applyMend(plainPlan(shape), regions, shape)).toEqual(plainPlan(shape))
  })
})

describe('a map of patches', () => {
  it('gives every pixel its whole share, and away from borders to one alone', () => {
    const maps = fc
      .tuple(fc.integer({ min: 1, max: 5 }), fc.integer({ min: 1, max: 5 }))
      .chain(([across, down]) =>
        fc
          .array(fc.nat(35), { minLength: across * down, maxLength: across * down })
          .map((labels) => patchMap(across, down, labels)),
      )
    fc.assert(
      fc.property(maps, fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), (map, width, height) => {
        const shares = new Float64Array(width * height)
        eachPatch(map, width, height, (pixel, label, weight) => {
          expect(label < 36).toBe(true)
          shares[pixel] += weight
        })
        for (const share of shares) expect(share).toBeCloseTo(1, 9)
      }),
    )
  })
})
