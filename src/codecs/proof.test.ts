import { describe, expect, it } from 'vitest'
import { fraction } from '@/core/clock'
import type { Loop } from '@/core/document'
import { newLayer, newLoop } from '@/core/edit'
import type { Picture } from '@/core/image'
import { evenly } from '@/core/motion'
import { PLAIN_SETTINGS, timingIn, withFormat } from '@/core/output'
import { seeded } from '@/core/random'
import { judgeDescribed, type LoopVerdict, type SeamReport, type Verdict } from '@/core/seam'
import { type FilePromise, NEAR_PIXELS, palettePromise, promiseOf } from './promise'
import { inspectFrame, proveFile } from './proof'
import { mixUpOf } from './shown'

const SIDE = 60
const N = 24
type Look = (x: number, y: number, n: number) => readonly number[]
const painted = (n: number, look: Look): Picture => {
  const data = new Uint8ClampedArray(4 * SIDE * SIDE)
  for (let i = 0; i < SIDE * SIDE; i++) data.set(look(i % SIDE, Math.floor(i / SIDE), n), 4 * i)
  return { width: SIDE, height: SIDE, data }
}
/** A light that goes round on a dusky ground, or on nothing. */
const light = (x: number, y: number, n: number): boolean => {
  const angle = (2 * Math.PI * n) / N
  return Math.hypot(x - 30 - 18 * Math.cos(angle), y - 30 - 18 * Math.sin(angle)) < 8
}
const opaque: Look = (x, y, n) => (light(x, y, n) ? [242, 181, 74, 255] : [18, 58, 76, 255])
const onNothing: Look = (x, y, n) => (light(x, y, n) ? [242, 181, 74, 255] : [0, 0, 0, 0])

const promised = (look: Look, change: Partial<FilePromise>): FilePromise => ({
  width: SIDE,
  height: SIDE,
  delaysMs: null,
  toleranceMs: 0,
  saysRepeats: false,
  frames: N,
  frame: (n) => painted(n, look),
  transparent: false,
  pixels: NEAR_PIXELS,
  verdict: null,
  ...change,
})
const proven = (look: Look, promise: FilePromise) =>
  proveFile(
    1,
    {
      width: SIDE,
      height: SIDE,
      delaysMs: null,
      playsForever: null,
      frames: Array.from({ length: N }, (_, n) => painted(n, look)),
    },
    promise,
  )
const brokenIn = async (look: Look, promise: FilePromise) =>
  (await proven(look, promise)).lines.filter(({ holds }) => !holds).map(({ what }) => what)

describe('a proof', () => {
  it('of a palette wants every pixel drawn or not as it was meant', async () => {
    const promise = promised(onNothing, { transparent: true, pixels: palettePromise(256, 0, true) })
    expect(await brokenIn(onNothing, promise)).toEqual([])
    const onePixel: Look = (x, y, n) => (n === 5 && x === 2 && y === 3 ? [0, 0, 0, 255] : onNothing(x, y, n))
    expect(await brokenIn(onePixel, promise)).toContain('alpha')
  })
  it('looks at every spot: one of a few pixels that is wrong in one frame breaks it', async () => {
    const promise = promised(opaque, { pixels: palettePromise(256, 0, false) })
    const spot: Look = (x, y, n) => (n === 5 && x < 6 && y < 6 ? [250, 250, 250, 255] : opaque(x, y, n))
    const broken = await brokenIn(spot, promise)
    expect(broken).toContain('every spot')
    expect(broken).not.toContain('pixels')
  })
  it('is broken where the frames at the seam are much worse than the others, though all are near enough', async () => {
    const noisy =
      (amount: (n: number) => number): Look =>
      (x, y, n) => {
        const off = amount(n) * (((x * 31 + y * 17) % 3) - 1)
        return opaque(x, y, n).map((value, c) => (c < 3 ? value + off : value))
      }
    const promise = promised(opaque, {})
    expect(
      await brokenIn(
        noisy(() => 3),
        promise,
      ),
    ).toEqual([])
    expect(
      await brokenIn(
        noisy((n) => (n === 0 || n === N - 1 ? 12 : 1)),
        promise,
      ),
    ).toEqual(['quality at the seam'])
  })
  it.each([
    ['jumps', 'jumps', false, 'jumps'],
    ['jumps', 'closes', true, 'jumps, which is meant'],
    ['too-few-frames', 'closes', true, 'too few frames to tell, the motions come home'],
    ['closes', 'closes', true, 'closes'],
    ['closes', 'jumps', true, 'closes'],
  ] as const)('whose pictures say %s and whose document says %s: the seam line', async (seen, said, holds, found) => {
    const seam = {
      ...judgeDescribed([inspectFrame(painted(0, opaque), null, { side: 60, alpha: 'own', spots: null }).described]),
      verdict: seen as Verdict,
    }
    const verdict = (): LoopVerdict => ({ verdict: said, sentence: 'Said.', fault: null })
    const promise = promised(opaque, { verdict })
    const file = { width: SIDE, height: SIDE, delaysMs: null, playsForever: null, frames: [] }
    const { lines } = await proveFile(1, file, promise, () => {}, undefined, seam)
    expect(lines.find(({ what }) => what === 'seam')).toMatchObject({ holds, found })
    expect(lines.find(({ what }) => what === 'motions')?.holds).toBe(said === 'closes')
  })
  it('gives the document the frame of the loop, where the file has fewer', () => {
    const buoy = {
      ...newLayer('rectangle', 'Buoy', { x: 30, y: 30, width: 20, height: 8 }),
      motions: { rotation: evenly(360) },
    }
    const brief = {
      name: 'Pier',
      kind: 'loader',
      width: SIDE,
      height: SIDE,
      background: null,
      rate: fraction(120),
      length: 120,
    } as const
    const loop: Loop = { ...newLoop(brief), layers: [buoy] }
    const settings = withFormat(PLAIN_SETTINGS, 'gif')
    const timing = timingIn(loop, settings)
    expect(timing.frames.length).toBeLessThan(loop.length)
    const { verdict } = promiseOf(
      { loop, settings, timing, width: SIDE, height: SIDE, transparent: false },
      { frame: () => null },
    )
    const seam = judgeDescribed([
      inspectFrame(painted(0, opaque), null, { side: 60, alpha: 'own', spots: null }).described,
    ])
    const told = (frame: number, isStray = false): string =>
      verdict?.({ ...seam, verdict: 'jumps', frame, isStray } satisfies SeamReport).sentence ?? ''
    // The step from one frame of the file to the next ends at the frame of the loop that the next one shows.
    for (const n of [0, 7, timing.frames.length - 2])
      expect(told(n)).toContain(`After frame ${Math.ceil(timing.frames[n + 1] as number) - 1} `)
    expect(told(timing.frames.length - 1)).toContain('At the seam')
  })
})

describe('a mix-up', () => {
  it('of two frames that follow each other is found in a file of thousands', () => {
    const shade = (n: number): Picture => {
      const data = Uint8ClampedArray.from({ length: 16 }, (_, i) => (i % 4 === 3 ? 255 : 255 * seeded(n, i)))
      return { width: 2, height: 2, data }
    }
    const shown = Array.from({ length: 2500 }, (_, n) => ({ meant: shade(n), found: shade(n === 1000 ? 1001 : n) }))
    expect(mixUpOf(shown, 8)).toBe('frame 1000 shows what frame 1001 should')
  })
})
