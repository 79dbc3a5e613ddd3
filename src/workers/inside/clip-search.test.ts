import { describe, expect, it } from 'vitest'
import { applyMend, type ClipPlan, type PlanFrame, plainPlan, sourcesOf } from '@/core/footage'
import type { Picture } from '@/core/image'
import { describeFrame, type JudgedFrame, judgeClip } from '@/core/seam'
import { loopsIn, movingIn } from './clip-search'

const WIDTH = 64
const HEIGHT = 48
const PERIOD = 18
const COUNT = 50

/** A lamp that goes round on a dark pier, in the upper half. */
const lampAt = (n: number): Picture => {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT)
  const turn = (2 * Math.PI * n) / PERIOD
  const cx = 32 + 18 * Math.cos(turn)
  const cy = 14 + 8 * Math.sin(turn)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const lit = Math.max(0, 1 - Math.hypot(x - cx, y - cy) / 9)
      data.set([20 + 210 * lit, 40 + 120 * lit, 60 + y, 255], 4 * (y * WIDTH + x))
    }
  return { width: WIDTH, height: HEIGHT, data }
}

const pictures = Array.from({ length: COUNT }, (_, n) => lampAt(n))
const described = pictures.map((picture): JudgedFrame => describeFrame(picture))
const clip = () => ({ shape: { delaysMs: pictures.map(() => 40), playsForever: true, means: [] } })
const report = async (plan: ClipPlan) =>
  judgeClip(
    plan.frames.map((frame) => described[sourcesOf(frame)[0] ?? 0] as JudgedFrame),
    plan,
  )
const bounds = { least: 10, most: COUNT, holds: null, from: 0, to: 10_000 }

/** Asks for loops, and counts how many frames were looked at. */
async function asked(of: ReturnType<typeof clip>, plan: ClipPlan, how = bounds as Parameters<typeof loopsIn>[2]) {
  let looked = 0
  const pictureOf = (n: number) => {
    looked++
    return pictures[sourcesOf(plan.frames[n] as PlanFrame)[0] ?? 0] as Picture
  }
  return { found: await loopsIn(of, plan, how, pictureOf, report, async () => {}), looked }
}

describe('a search for loops in a clip', () => {
  it('names whole periods that close, with how much of the picture moves, and has them on its map', async () => {
    const of = clip()
    const { found } = await asked(of, plainPlan(of.shape))
    expect(found.period).toBe(PERIOD)
    expect(found.cuts.length).toBeGreaterThan(0)
    for (const { length, verdict, moving } of found.cuts) {
      expect([length % PERIOD, verdict]).toEqual([0, 'closes'])
      expect(moving).toBeGreaterThan(0.15)
      expect(moving).toBeLessThan(0.7)
    }
    const best = found.map.cells.reduce((least, cell) => (cell && cell.cost < (least?.cost ?? 9) ? cell : least), null)
    expect((best?.length ?? 1) % PERIOD).toBe(0)
  })
  it('looks at each frame once, until the clip is mended otherwise', async () => {
    const of = clip()
    const whole = plainPlan(of.shape)
    expect((await asked(of, whole)).looked).toBe(COUNT)
    const again = await asked(of, whole, { ...bounds, most: 20, holds: 49 })
    expect(again.looked).toBe(0)
    for (const { start, length } of again.found.cuts) expect(start + length).toBe(COUNT)
    const cropped = applyMend(whole, { kind: 'crop', from: 5, to: 44 }, of.shape)
    const after = await asked(of, cropped)
    expect(after.looked).toBe(40)
    for (const { start, length } of after.found.cuts) expect(start + length).toBeLessThanOrEqual(40)
    // Another clip is another one, however alike they are.
    expect((await asked(clip(), whole)).looked).toBe(COUNT)
  })
  it('stops when it is told to, and leaves nothing half known', async () => {
    const of = clip()
    const plan = plainPlan(of.shape)
    const stopped = loopsIn(of, plan, bounds, lampAt, report, async () => {
      throw new Error('another search was begun')
    })
    await expect(stopped).rejects.toThrow('another search was begun')
    expect((await asked(of, plan)).looked).toBe(COUNT)
  })
  it('tells where it moves: above, where the lamp goes round', async () => {
    const of = clip()
    const region = await movingIn(of, plainPlan(of.shape), lampAt, async () => {})
    const rows = Array.from({ length: region.down }, (_, y) =>
      region.cells.slice(y * region.across, (y + 1) * region.across).some(Boolean),
    )
    expect(rows.indexOf(true)).toBe(0)
    expect(rows.lastIndexOf(true) / region.down).toBeLessThan(0.7)
    expect(rows.at(-1)).toBe(false)
  })
})
