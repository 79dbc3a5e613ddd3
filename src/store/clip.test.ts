import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { type ClipShape, type Mend, mendedPlan } from '@/core/footage'
import type { ClipReport } from '@/core/seam'
import { wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import {
  cancelClip,
  cutAnew,
  exchangeClip,
  openClip,
  previewMend,
  redoMend,
  startAfresh,
  takeMend,
  undoMend,
  useClip,
  writeMendedClip,
} from './clip'
import { placedClip } from './clip-placed'
import { eventually } from './testing/eventually'

/** A worker whose answers come when the test lets them. */
const worker = vi.hoisted(() => {
  const mended = vi.fn()
  return { open: vi.fn(), exchange: vi.fn(), mended, previewed: mended, gif: vi.fn(), stored: vi.fn(), cancel: vi.fn() }
})
vi.mock('@/workers/page/clients', () => ({
  WorkerEnded: class extends Error {},
  clipClient: () => ({ service: worker, ask: (work: (service: unknown) => unknown) => work(worker), end: () => {} }),
}))

const shape: ClipShape = {
  delaysMs: new Array<number>(8).fill(40),
  playsForever: false,
  means: new Array<[number, number, number]>(8).fill([0.2, 0.2, 0.2]),
}
const report = { seam: { verdict: 'closes' }, findings: [], sound: true } as unknown as ClipReport
const answer = (mends: readonly Mend[]) => ({ plan: mendedPlan(shape, mends), report, steadied: [] })
const lamp = new File(['x'], 'lamp.gif')
const forEver: Mend = { kind: 'for-ever' }
const crop: Mend = { kind: 'crop', from: 0, to: 3 }
const back: Mend = { kind: 'there-and-back' }
const count = () => useClip.getState().mended?.plan.frames.length

/** Lets answers wait, and gives them in the order that the test chooses. */
function held() {
  const waiting: (() => void)[] = []
  worker.mended.mockImplementation(
    (mends: readonly Mend[]) => new Promise((resolve) => waiting.push(() => resolve(answer(mends)))),
  )
  const next = async (i = 0) => {
    await eventually(() => expect(waiting.length).toBeGreaterThan(i))
    waiting.splice(i, 1)[0]?.()
    await new Promise((resolve) => setTimeout(resolve))
  }
  return next
}

describe('the clip that is mended', () => {
  beforeEach(async () => {
    vi.clearAllMocks()
    await localforage.createInstance({ name: 'cyclon', storeName: 'plans' }).clear()
    worker.open.mockResolvedValue({ facts: { name: 'lamp.gif' }, ...answer([]) })
    worker.mended.mockImplementation(async (mends: readonly Mend[]) => answer(mends))
    await openClip([lamp])
  })

  it('opens with nothing mended, and with what was found at first', () => {
    expect(useClip.getState()).toMatchObject({
      mends: [],
      undone: [],
      working: null,
      problem: null,
      original: { report },
    })
    expect(count()).toBe(8)
  })
  it('stays as it was where another file cannot be read', async () => {
    await takeMend(crop)
    worker.open.mockRejectedValue(new Error('half.gif breaks off.'))
    expect(await openClip([new File(['y'], 'half.gif')])).toBe(false)
    expect(useClip.getState()).toMatchObject({ problem: 'half.gif breaks off.', mends: [crop], working: null })
    expect(count()).toBe(4)
    expect(await openClip([])).toBe(false)
  })
  it('takes mends, takes them back, and takes them again', async () => {
    await takeMend(crop)
    await takeMend(back)
    expect(count()).toBe(6)
    await undoMend()
    expect(useClip.getState()).toMatchObject({ mends: [crop], undone: [back] })
    expect(count()).toBe(4)
    await undoMend()
    await undoMend()
    expect(useClip.getState()).toMatchObject({ mends: [], undone: [crop, back] })
    await redoMend()
    await redoMend()
    await redoMend()
    expect(useClip.getState()).toMatchObject({ mends: [crop, back], undone: [] })
    await undoMend()
    await takeMend(forEver)
    expect(useClip.getState()).toMatchObject({ mends: [crop, forEver], undone: [] })
  })
  it('takes a mend and takes it back in that order, however quickly', async () => {
    const next = held()
    const all = [takeMend(crop), takeMend(back), undoMend()]
    for (let i = 0; i < 3; i++) await next()
    await Promise.all(all)
    expect(useClip.getState()).toMatchObject({ mends: [crop], undone: [back] })
    expect(count()).toBe(4)
  })
  it('comes back with what was done to it when the same file is opened again; begun afresh, without', async () => {
    await takeMend(crop)
    await takeMend(back)
    await undoMend()
    await openClip([new File(['other'], 'other.gif')])
    expect(useClip.getState().mends).toEqual([])
    // By what is in it, not by its name.
    await openClip([new File(['x'], 'renamed.gif')])
    expect(useClip.getState()).toMatchObject({ mends: [crop], undone: [back] })
    expect(count()).toBe(4)
    await startAfresh()
    expect(useClip.getState()).toMatchObject({ mends: [], undone: [crop, back] })
    await redoMend()
    expect(useClip.getState().mends).toEqual([crop])
    // Cut into other frames it is another clip.
    await cutAnew({ columns: 2, rows: 1, count: 2 })
    expect(useClip.getState().mends).toEqual([])
  })
  it('is opened without what cannot be read of the last time', async () => {
    await takeMend(crop)
    const plans = localforage.createInstance({ name: 'cyclon', storeName: 'plans' })
    await eventually(async () => expect(await plans.length()).toBe(1))
    const [key] = await plans.keys()
    await plans.setItem(key ?? '', { mends: [{ kind: 'of another version' }], undone: [] })
    expect(await openClip([lamp])).toBe(true)
    expect(useClip.getState()).toMatchObject({ mends: [], problem: null })
  })
  it('keeps mends with the file that they are of: what is worked out too late for it is left', async () => {
    const next = held()
    const late = takeMend(crop)
    await eventually(() => expect(worker.mended).toHaveBeenCalled())
    const after = takeMend(back)
    expect(await openClip([new File(['other'], 'other.gif')])).toBe(true)
    await next()
    await Promise.all([late, after])
    expect(useClip.getState()).toMatchObject({ mends: [], undone: [], working: null, problem: null })
    expect(count()).toBe(8)
    worker.mended.mockImplementation(async (mends: readonly Mend[]) => answer(mends))
    await openClip([lamp])
    await openClip([new File(['other'], 'other.gif')])
    expect(useClip.getState().mends).toEqual([])
  })
  it('tells of what is written as long as it is, whatever is mended meanwhile', async () => {
    let write: (value: unknown) => void = () => {}
    worker.gif.mockImplementation(() => new Promise((resolve) => (write = resolve)))
    const writing = writeMendedClip()
    await eventually(() => expect(useClip.getState().working).toMatchObject({ what: 'Writing the GIF' }))
    await takeMend(crop)
    expect(useClip.getState().working).toMatchObject({ what: 'Writing the GIF' })
    write({ bytes: new Uint8Array(), proof: {} })
    await writing
    expect(useClip.getState().working).toBeNull()
  })
  it('is exchanged for a better copy with all that was done; what is none is said and changes nothing', async () => {
    await takeMend(crop)
    const large = { facts: { name: 'large.webm' }, ...answer([]) }
    worker.exchange.mockResolvedValueOnce(large)
    expect(await exchangeClip([new File(['xx'], 'large.webm')])).toBe(true)
    expect(useClip.getState()).toMatchObject({ facts: { name: 'large.webm' }, mends: [crop] })
    expect(count()).toBe(4)
    worker.exchange.mockRejectedValueOnce(new Error('Frame 3 shows something else.'))
    expect(await exchangeClip([new File(['z'], 'other.webm')])).toBe(false)
    expect(useClip.getState()).toMatchObject({
      facts: { name: 'large.webm' },
      mends: [crop],
      problem: 'Frame 3 shows something else.',
    })
  })
  it('says of a mend that could not be worked out why, and goes on', async () => {
    worker.mended.mockRejectedValueOnce(new Error('The worker broke down.'))
    await takeMend(crop)
    expect(useClip.getState()).toMatchObject({ mends: [], problem: 'The worker broke down.' })
    await takeMend(forEver)
    expect(useClip.getState().mends).toEqual([forEver])
  })
  it('shows what is pointed at last, whichever answer comes first', async () => {
    const next = held()
    const first = previewMend(crop)
    const second = previewMend(back)
    await next(1)
    await next()
    await Promise.all([first, second])
    expect(useClip.getState().preview?.mend).toEqual(back)
    await previewMend(null)
    expect(useClip.getState().preview).toBeNull()
  })
  it('shows no preview any more once a mend has been taken', async () => {
    const next = held()
    const preview = previewMend(back)
    const taken = takeMend(crop)
    await next(1)
    await taken
    await next()
    await preview
    expect(useClip.getState().preview).toBeNull()
    expect(count()).toBe(4)
  })
  it('keeps a written file with the mends that are in it, and says why none was written', async () => {
    worker.gif.mockResolvedValueOnce({ bytes: new Uint8Array(3), proof: { holds: true } })
    await takeMend(crop)
    await writeMendedClip()
    expect(useClip.getState()).toMatchObject({ working: null, written: { mends: [crop] } })
    worker.gif.mockRejectedValueOnce(new Error('It was cancelled.'))
    await writeMendedClip()
    expect(useClip.getState()).toMatchObject({
      working: null,
      problem: 'It was cancelled.',
      written: { mends: [crop] },
    })
    await cancelClip()
    expect(worker.cancel).toHaveBeenCalledOnce()
  })

  it('reads of many files the numbered pictures, in their order', async () => {
    const named = ['wake10.png', 'notes.txt', 'wake9.png', 'wake11.png'].map((name) => new File(['x'], name))
    await openClip(named)
    const [files] = worker.open.mock.lastCall as [File[]]
    expect(files.map(({ name }) => name)).toEqual(['wake9.png', 'wake10.png', 'wake11.png'])
    expect(await openClip([new File(['x'], 'a.txt'), new File(['x'], 'b.txt')])).toBe(false)
    expect(useClip.getState().problem).toContain('no pictures')
  })
  it('is written and placed with the mends that were asked for just before, though they are still being worked out', async () => {
    const next = held()
    worker.gif.mockResolvedValue({ bytes: new Uint8Array(1), proof: {} })
    void takeMend(crop)
    const writing = writeMendedClip()
    await next()
    await writing
    expect(worker.gif.mock.lastCall?.[0]).toEqual([crop])
    expect(useClip.getState().written?.mends).toEqual([crop])
  })
  it('cuts the same picture anew', async () => {
    const grid = { columns: 4, rows: 2, count: 7 }
    await cutAnew(grid)
    const [files, cut] = worker.open.mock.lastCall as [File[], typeof grid]
    expect([files, cut]).toEqual([[lamp], grid])
  })
  it('becomes a layer with its mends; where it cannot, that is said and the clip stays', async () => {
    const clip = wakeOf([40, 40, 40, 40])
    worker.stored.mockResolvedValue({ clip, files: new Map(), how: 'without loss' })
    await takeMend(crop)
    const placed = await placedClip(() => quay)
    expect(worker.stored.mock.lastCall?.[0]).toEqual([crop])
    expect(placed?.loop.media).toEqual([clip])
    expect(placed?.loop.layers).toEqual([placed?.layer])
    worker.stored.mockRejectedValue(new Error('More than a loop keeps. Crop it.'))
    expect(await placedClip(() => quay)).toBeNull()
    expect(useClip.getState()).toMatchObject({
      problem: 'More than a loop keeps. Crop it.',
      mends: [crop],
      working: null,
    })
  })
})
