import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import { tileCase } from '../testing/tiles'
import { HEALS, healed, healedBy, healPlan, judgeTile, judgeTiles, movedByHalf, usualBand } from '.'

const KINDS = ['clouds', 'cells'] as const
const broken = (kind: (typeof KINDS)[number], seed: number) => tileCase(kind, 'x', seed)
/** A picture brightened by `by`, as the next frame of a clip may be. */
const brighter = ({ data, ...size }: Picture, by: number): Picture => ({
  ...size,
  data: data.map((value, i) => (i % 4 === 3 ? value : value + by)),
})

describe('healing', () => {
  it.each(HEALS)('by %s mends all frames of a clip alike: what lies still in them lies still afterwards', (by) => {
    const first = broken('clouds', 4)
    const frames = [first, brighter(first, 6), first]
    const plan = healPlan(frames, 'x', by, usualBand(first.width))
    const mended = frames.map((frame) => healedBy(frame, plan))
    expect(mended[2]?.data).toEqual(mended[0]?.data)
    for (const frame of mended) expect(judgeTile(frame).x.verdict).toBe('closes')
    // The second is the first, brighter, wherever it is not cut off at white.
    const [a, b] = mended as [Picture, Picture]
    let worst = 0
    for (let i = 0; i < a.data.length; i++)
      if (i % 4 < 3 && b.data[i] < 250) worst = Math.max(worst, Math.abs(b.data[i] - a.data[i] - 6))
    expect(worst).toBeLessThanOrEqual(by === 'blend' ? 3 : 2)
  })
  it.each(HEALS)('by %s leaves what lies beyond the band as it was, to the bit', (by) => {
    const picture = broken('cells', 3)
    const band = usualBand(picture.width)
    const mended = healed(picture, 'x', by, band)
    expect(mended.width).toBe(by === 'fill' ? picture.width : picture.width - band)
    // In the middle of a picture that is blended or cut; at a quarter of one that is filled about its edge.
    for (let y = 0; y < picture.height; y += 5)
      for (let x = Math.ceil(picture.width * 0.3); x < picture.width * 0.6; x++)
        for (let c = 0; c < 4; c++)
          expect(mended.data[4 * (y * mended.width + x) + c]).toBe(picture.data[4 * (y * picture.width + x) + c])
  })
  it('needs a picture, and a band that fits', () => {
    expect(() => healPlan([], 'x', 'cut', 8)).toThrow('no picture')
    expect(() => healPlan([broken('clouds', 1)], 'y', 'blend', 1)).toThrow('does not fit')
  })
  it('moves a picture on by half both ways, and twice is once round', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), (w, h) => {
        const width = 2 * w
        const height = 2 * h
        const data = Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) => (i * 37) % 256)
        expect(movedByHalf(movedByHalf({ width, height, data })).data).toEqual(data)
        expect(movedByHalf({ width, height, data }).data[0]).toBe(data[4 * (h * width + w)])
      }),
    )
  })
})

describe('the edges of frames', () => {
  it('are those of the worst of a few frames in each direction, which is named', async () => {
    const sound = tileCase('clouds', 'none', 2)
    const cut = broken('clouds', 2)
    const asked: number[] = []
    const edges = await judgeTiles(40, async (n) => {
      asked.push(n)
      return n === 20 ? cut : sound
    })
    expect(asked).toEqual([0, 10, 20, 30])
    expect([edges.x.verdict, edges.x.frame]).toEqual(['shows-an-edge', 20])
    expect(edges.y.verdict).toBe('closes')
    const still = await judgeTiles(1, async () => sound)
    expect([still.x.frame, still.x.verdict]).toEqual([0, 'closes'])
  })
})
