import { readdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { describe, expect, it } from 'vitest'
import { type Mend, mendedPlan, mixFrame, patchMap } from '@/core/footage'
import type { Picture } from '@/core/image'
import { CommandError } from './command-error'
import { Reel } from './reel'
import type { Source } from './sources'

const N = 20
const pictureOf = (n: number): Picture => ({
  width: 6,
  height: 4,
  data: Uint8ClampedArray.from({ length: 96 }, (_, i) => (i % 4 === 3 ? 255 : (n * 11 + i * 3) % 256)),
})
const clip = { delaysMs: Array.from({ length: N }, () => 40), playsForever: true, means: [] }
const claims = { width: 6, height: 4, delaysMs: clip.delaysMs, plays: 0, notes: [] }

/** A clip that counts how often it is started, and breaks off after `length` frames. */
function counted(length = N) {
  const told = { begun: 0, read: 0, left: 0 }
  const source: Source = {
    file: 'wake.webm',
    format: 'video',
    claims,
    async *frames() {
      told.begun++
      try {
        for (let n = 0; n < length; n++) {
          told.read++
          yield pictureOf(n)
        }
      } finally {
        told.left++
      }
    },
  }
  return { source, told }
}
const kept = async () => (await readdir(tmpdir())).filter((name) => name.startsWith(`cyclon-frames-${process.pid}`))

const PLANS: Readonly<Record<string, readonly Mend[]>> = {
  'there and back': [{ kind: 'crop', from: 3, to: 12 }, { kind: 'there-and-back' }],
  'ends that overlap': [
    { kind: 'crop', from: 6, to: 15 },
    { kind: 'overlap', frames: 4, keepVariance: true },
  ],
  'regions of their own': [
    {
      kind: 'parts',
      length: 12,
      map: patchMap(2, 1, [0, 1]),
      loops: [
        { start: 8, period: 12, overlap: 4 },
        { start: 2, period: 6, overlap: -3 },
      ],
    },
  ],
}

describe('frames of a plan', () => {
  for (const [name, mends] of Object.entries(PLANS))
    for (const [where, most] of [
      ['at hand', 1e9],
      ['in a file', 0],
    ] as const)
      it(`are what they are mixed of, and the clip is read once, ${where}: ${name}`, async () => {
        const { source, told } = counted()
        const plan = mendedPlan(clip, mends)
        const reel = new Reel(source, plan, most)
        // Twice over and backwards, as a proof may ask for them.
        const order = [...plan.frames.keys(), ...[...plan.frames.keys()].reverse()]
        for (const n of order)
          expect(await reel.mixed(n)).toEqual(mixFrame(plan.frames[n] as (typeof plan.frames)[number], pictureOf))
        expect(told.begun).toBe(1)
        expect((await kept()).length).toBe(most === 0 ? 1 : 0)
        await reel.close()
        expect([told.left, await kept()]).toEqual([1, []])
      })
  it('say where the clip breaks off, and leave nothing behind', async () => {
    const { source } = counted(5)
    const reel = new Reel(source, mendedPlan(clip, []), 0)
    await reel.mixed(2)
    const broken = await reel.mixed(9).catch((error: unknown) => error)
    expect(broken).toBeInstanceOf(CommandError)
    expect(broken).toMatchObject({ message: expect.stringContaining('breaks off at frame 5') })
    await reel.close()
    expect(await kept()).toEqual([])
  })
})
