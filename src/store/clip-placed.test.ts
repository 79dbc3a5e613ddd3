import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Layer, Loop } from '@/core/document'
import { type ClipShape, type Mend, mendedPlan } from '@/core/footage'
import { keepAtHand, type StillPicture } from '@/core/media'
import { pierOf, wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import { openClip, takeMend, useClip } from './clip'
import { cinemagraphOf, placedClip, regionIn } from './clip-placed'

const worker = vi.hoisted(() => ({
  open: vi.fn(),
  mended: vi.fn(),
  stored: vi.fn(),
  still: vi.fn(),
  moving: vi.fn(),
  overStill: vi.fn(),
}))
vi.mock('@/workers/page/clients', () => ({
  WorkerEnded: class extends Error {},
  clipClient: () => ({ service: worker, ask: (work: (service: unknown) => unknown) => work(worker), end: () => {} }),
}))

const shape: ClipShape = { delaysMs: new Array<number>(12).fill(40), playsForever: true, means: [] }
const answer = (mends: readonly Mend[]) => ({ plan: mendedPlan(shape, mends), report: { seam: {} }, steadied: [] })
const crop: Mend = { kind: 'crop', from: 2, to: 9 }
const wake = wakeOf(new Array<number>(8).fill(40))
const kinds = (layers: readonly Layer[]): unknown[] =>
  layers.map(({ kind, layers: held }) => (held ? [kind, kinds(held)] : kind))
/** Two of four cells move, beside each other. */
const region = { across: 2, down: 2, cells: [true, true, false, false] }

beforeEach(async () => {
  vi.clearAllMocks()
  worker.open.mockResolvedValue({ facts: { name: 'wake.webm' }, ...answer([]) })
  worker.mended.mockImplementation(async (mends: readonly Mend[]) => answer(mends))
  worker.stored.mockResolvedValue({ clip: wake, files: new Map(), how: 'without loss' })
  worker.still.mockResolvedValue({ width: 320, height: 200, png: new Uint8Array([1, 2, 3]) })
  worker.moving.mockResolvedValue(region)
  worker.overStill.mockResolvedValue(null)
  await openClip([new File(['x'], 'wake.webm')])
  await takeMend(crop)
})

describe('a clip of footage in a loop', () => {
  it('is a layer with its mends', async () => {
    const placed = await placedClip(() => quay)
    expect(worker.stored.mock.calls[0]?.[0]).toEqual([crop])
    expect(placed?.loop.layers.at(-1)?.kind).toBe('clip')
    expect(placed?.how).toContain('without loss')
    expect(useClip.getState()).toMatchObject({ working: null, problem: null })
  })
  it('lies in a mask over a still of itself: empty for the brush, or over what moves', async () => {
    const bare = { ...quay, layers: [] }
    const painted = await cinemagraphOf(3, 'by hand', () => bare)
    expect(worker.still.mock.calls[0]).toEqual([[crop], 3])
    expect(kinds(painted?.loop.layers ?? [])).toEqual(['picture', ['group', ['clip', 'brush']]])
    expect(worker.moving).not.toHaveBeenCalled()
    const found = await cinemagraphOf(3, 'what moves', () => bare)
    const [, group] = found?.loop.layers ?? []
    const strokes = group?.layers?.[1]?.values.strokes as unknown as { points: number[] }[]
    // One stroke along the upper row.
    expect(strokes).toHaveLength(1)
    expect(strokes[0]?.points[1]).toBeLessThan(0)
    expect(found?.mask).toBe(group?.layers?.[1]?.id)
  })
  it('is one more region of a loop that has some, with a period of its own', async () => {
    const first = await cinemagraphOf(3, 'what moves', () => ({ ...quay, layers: [], media: [pierOf()] }))
    worker.stored.mockResolvedValue({
      clip: wakeOf([40, 40, 40], { id: 'lamp', name: 'Lamp' }),
      files: new Map(),
      how: 'x',
    })
    const second = first && (await regionIn(first.loop))
    expect(kinds(second?.loop.layers ?? [])).toEqual([
      'picture',
      ['group', ['clip', 'brush']],
      ['group', ['clip', 'brush']],
    ])
    expect(second?.loop.media.map(({ id }) => id)).toContain('lamp')
    const clips = second?.loop.layers.flatMap(({ layers = [] }) => layers.filter(({ kind }) => kind === 'clip')) ?? []
    expect(clips).toHaveLength(2)
    expect(clips[0]?.motions.time).not.toEqual(clips[1]?.motions.time)
  })
  it('lies where its scene lies over the still, and in the middle where that shows another', async () => {
    const first = await cinemagraphOf(3, 'what moves', () => ({ ...quay, layers: [], media: [] }))
    const host = first?.loop as Loop
    keepAtHand(
      new Map([[(host.media.find(({ kind }) => kind === 'picture') as StillPicture).file.id, new Blob(['x'])]]),
    )
    const regionOf = async () => {
      const made = await regionIn(host)
      const [clip, mask] = made?.loop.layers.at(-1)?.layers ?? []
      return { aligned: made?.aligned, clip: clip?.values, mask: mask?.values }
    }
    const middle = await regionOf()
    expect(middle).toMatchObject({ aligned: false, clip: { x: host.width / 2, y: host.height / 2, rotation: 0 } })
    worker.overStill.mockResolvedValue({ x: 0.1, y: -0.05, width: 0.5, rotation: 3, alike: 0.9 })
    const still = host.layers[0]?.values as { x: number; y: number; width: number }
    const laid = await regionOf()
    expect(laid.aligned).toBe(true)
    expect(laid.clip?.width).toBeCloseTo(still.width / 2)
    expect(laid.clip?.height).toBeCloseTo((still.width / 2) * (wake.height / wake.width))
    for (const part of [laid.clip, laid.mask]) {
      expect(part?.x).toBeCloseTo(still.x + 0.1 * still.width)
      expect(part?.y).toBeCloseTo(still.y - 0.05 * still.width)
      expect(part?.rotation).toBe(3)
    }
  })
  it('is not looked for where there is no still, or its file has gone', async () => {
    expect((await regionIn({ ...quay, layers: [] }))?.aligned).toBeNull()
    expect(worker.overStill).not.toHaveBeenCalled()
  })
  it('says why where it cannot be, and leaves the clip as it is', async () => {
    for (const [name, ask] of [
      ['stored', () => placedClip(() => quay)],
      ['stored', () => regionIn(quay)],
      ['still', () => cinemagraphOf(0, 'by hand', () => quay)],
      ['moving', () => cinemagraphOf(0, 'what moves', () => quay)],
    ] as const) {
      worker[name].mockRejectedValueOnce(new Error(`${name} broke down.`))
      expect(await ask()).toBeNull()
      expect(useClip.getState()).toMatchObject({ problem: `${name} broke down.`, working: null, mends: [crop] })
    }
  })
})
