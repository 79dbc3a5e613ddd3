import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { PLAIN_SETTINGS } from '@/core/output'
import { quay } from '@/core/testing/quay'
import type { ExportedFile } from '@/workers/inside/export.worker'
import type { FileJob } from '@/workers/page/file-job'
import type { QueueItem } from './queue-item'
import { eventually } from './testing/eventually'

/** A request of the queue, with the answers that the test gives. */
interface Asked {
  readonly jobs: readonly FileJob[]
  readonly files: { readonly done: (file: ExportedFile) => void; readonly fail: (error: Error) => void }[]
  cancelled: boolean
  paused: boolean
}
const asked: Asked[] = []
vi.mock('@/workers/page/writing', () => ({
  writeTogether: (jobs: readonly FileJob[]) => {
    const own: Asked = { jobs, files: [], cancelled: false, paused: false }
    asked.push(own)
    const files = jobs.map(() => new Promise<ExportedFile>((done, fail) => own.files.push({ done, fail })))
    for (const file of files) file.catch(() => {})
    return {
      files,
      pause: () => {
        own.paused = true
      },
      resume: () => {
        own.paused = false
      },
      cancel: () => {
        own.cancelled = true
      },
    }
  },
}))
const written = (holds = true): ExportedFile =>
  ({
    bytes: new Uint8Array([1, 2, 3]),
    type: 'image/gif',
    width: 4,
    height: 3,
    frames: 2,
    note: null,
    proof: { holds, lines: [{ what: 'frames', expected: '2', found: '1', holds }] },
  }) as unknown as ExportedFile

const wanted = (...names: string[]) => names.map((name) => ({ loop: quay, settings: PLAIN_SETTINGS, name }))
/** Waits until the given number of groups of files has been requested. */
const asksFor = (groups: number) => eventually(() => expect(asked).toHaveLength(groups))
/** The store, as a page that has just been opened has it. */
const opened = async () => {
  vi.resetModules()
  return import('./queue')
}

const storage = localforage.createInstance({ name: 'cyclon', storeName: 'queue' })
/** How far the files of the run are, as it is stored. */
async function storedStates(): Promise<string[]> {
  const found: { readonly order: number; readonly item: QueueItem }[] = []
  await storage.iterate<(typeof found)[number], void>((stored, key) => {
    if (key.startsWith('item ')) found.push(stored)
  })
  return found.sort((a, b) => a.order - b.order).map(({ item }) => item.state)
}

describe('the queue', () => {
  beforeEach(async () => {
    asked.length = 0
    await storage.clear()
  })
  afterEach(() => vi.restoreAllMocks())

  it('writes what shares its frames together, six at a time, then the rest', async () => {
    const { enqueue, startQueue, useQueue } = await opened()
    const large = { ...PLAIN_SETTINGS, scale: 2 }
    await enqueue([
      ...wanted('a', 'b'),
      { loop: quay, settings: large, name: 'large' },
      ...wanted('c', 'd', 'e', 'f', 'g'),
    ])
    const run = startQueue()
    await asksFor(1)
    expect(asked[0]?.jobs.map(({ name }) => name)).toEqual(['a', 'b', 'c', 'd', 'e', 'f'])
    for (const { done } of asked[0]?.files ?? []) done(written())
    await asksFor(2)
    expect(asked[1]?.jobs.map(({ name }) => name)).toEqual(['large'])
    asked[1]?.files[0]?.done(written())
    await asksFor(3)
    expect(asked[2]?.jobs.map(({ name }) => name)).toEqual(['g'])
    asked[2]?.files[0]?.done(written())
    await run
    expect(useQueue.getState().items.every(({ state }) => state === 'done')).toBe(true)
    expect(useQueue.getState().state).toBe('idle')
  })
  it('marks what fails, and what breaks its promise, with the reason, and goes on', async () => {
    const { enqueue, queuedFile: fileOf, startQueue, useQueue } = await opened()
    await enqueue(wanted('a', 'b', 'c'))
    const run = startQueue()
    await asksFor(1)
    asked[0]?.files[0]?.fail(new Error('There is no room.'))
    asked[0]?.files[1]?.done(written(false))
    asked[0]?.files[2]?.done(written())
    await run
    const [a, b, c] = useQueue.getState().items
    expect(a).toMatchObject({ state: 'failed', problem: 'There is no room.', result: null })
    expect(b).toMatchObject({ state: 'failed', problem: 'frames: 1 in place of 2' })
    expect(c).toMatchObject({ state: 'done', problem: null, result: { size: 3 } })
    expect(await fileOf(c as NonNullable<typeof c>)).toBeInstanceOf(Blob)
  })
  it('comes back on another page: what was done is done, what was being written waits', async () => {
    const first = await opened()
    await first.enqueue(wanted('a', 'b'))
    void first.startQueue()
    await asksFor(1)
    asked[0]?.files[0]?.done(written())
    await eventually(async () => {
      expect((await storedStates())[0]).toBe('done')
    })
    const second = await opened()
    await second.recallQueue()
    const { items, interrupted, state } = second.useQueue.getState()
    expect(items.map((item) => item.state)).toEqual(['done', 'waiting'])
    expect([interrupted, state]).toEqual([true, 'idle'])
    const run = second.startQueue()
    await asksFor(2)
    expect(asked[1]?.jobs.map(({ name, loop }) => [name, loop.name])).toEqual([['b', quay.name]])
    asked[1]?.files[0]?.done(written())
    await run
    expect(second.useQueue.getState()).toMatchObject({ interrupted: false, state: 'idle' })
  })
  it('is paused and goes on; when it is stopped, what was being written waits again', async () => {
    const { enqueue, pauseQueue, startQueue, stopQueue, useQueue } = await opened()
    await enqueue(wanted('a'))
    const run = startQueue()
    await asksFor(1)
    pauseQueue()
    expect(asked[0]?.paused).toBe(true)
    expect(useQueue.getState().state).toBe('paused')
    await startQueue()
    expect(asked[0]?.paused).toBe(false)
    stopQueue()
    await run
    expect(asked[0]?.cancelled).toBe(true)
    expect(useQueue.getState()).toMatchObject({ state: 'idle', items: [{ state: 'waiting', progress: null }] })
  })
  it('lets go of the loops and files that nothing needs any more', async () => {
    const { clearQueue, enqueue, startQueue, useQueue } = await opened()
    await enqueue(wanted('a', 'b'))
    const run = startQueue()
    await asksFor(1)
    for (const { done } of asked[0]?.files ?? []) done(written())
    await run
    expect((await storage.keys()).length).toBe(5)
    await clearQueue(useQueue.getState().items[0]?.id)
    expect((await storage.keys()).length).toBe(3)
    await clearQueue()
    expect(await storage.keys()).toEqual([])
    expect(useQueue.getState().items).toEqual([])
  })
  it('is one for all tabs: each adds to it, and the one that writes goes on with what another put in', async () => {
    const first = await opened()
    const second = await opened()
    await Promise.all([first.recallQueue(), second.recallQueue()])
    await first.enqueue(wanted('a'))
    const run = first.startQueue()
    await asksFor(1)
    await second.enqueue(wanted('b', 'c'))
    expect(second.useQueue.getState().items.map(({ name }) => name)).toEqual(['a', 'b', 'c'])
    asked[0]?.files[0]?.done(written())
    await asksFor(2)
    expect(asked[1]?.jobs.map(({ name }) => name)).toEqual(['b', 'c'])
    for (const { done } of asked[1]?.files ?? []) done(written())
    await run
    expect(await storedStates()).toEqual(['done', 'done', 'done'])
    const third = await opened()
    await third.recallQueue()
    for (const item of third.useQueue.getState().items) expect(await third.queuedFile(item)).toBeInstanceOf(Blob)
  })
  it('loses nothing to a tab that empties what it shows: what another put in since stays, and what it took out is not written', async () => {
    const first = await opened()
    const second = await opened()
    await first.enqueue(wanted('a', 'b'))
    await second.recallQueue()
    await first.enqueue(wanted('c'))
    const run = first.startQueue()
    await asksFor(1)
    await second.clearQueue()
    expect(await storedStates()).toEqual(['waiting'])
    for (const { done } of asked[0]?.files ?? []) done(written())
    await asksFor(2)
    expect(asked[1]?.jobs.map(({ name }) => name)).toEqual(['c'])
    asked[1]?.files[0]?.done(written())
    await run
    expect(first.useQueue.getState().items.map(({ name, state }) => [name, state])).toEqual([['c', 'done']])
    // The file, what it is of, and its place in the run.
    expect((await storage.keys()).map((key) => key.split(' ')[0]).sort()).toEqual(['file', 'item', 'loop'])
  })
  it.each([1, 2, 3])('takes all files that are put in, or none, when write %d fails', async (failing) => {
    const { enqueue, useQueue } = await opened()
    await enqueue(wanted('before'))
    const keys = await storage.keys()
    let writes = 0
    const put = IDBObjectStore.prototype.put
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, ...args) {
      if (++writes === failing) throw new DOMException('no room left', 'QuotaExceededError')
      return put.apply(this, args)
    })
    await expect(enqueue(wanted('a', 'b'))).rejects.toThrow('no room left')
    expect(await storage.keys()).toEqual(keys)
    expect(useQueue.getState().items.map(({ name }) => name)).toEqual(['before'])
  })
  it('tries nothing for ever that fails where not even that can be kept', async () => {
    const { enqueue, startQueue, useQueue } = await opened()
    await enqueue(wanted('a'))
    const run = startQueue()
    await asksFor(1)
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room left', 'QuotaExceededError')
    })
    asked[0]?.files[0]?.done(written())
    await run
    expect(asked).toHaveLength(1)
    expect(useQueue.getState().items).toMatchObject([{ state: 'failed', problem: expect.stringContaining('no room') }])
    // On the next page it waits.
    expect(await storedStates()).toEqual(['waiting'])
  })
  it('goes on with the list that an older version kept', async () => {
    const first = await opened()
    await first.enqueue(wanted('a', 'b'))
    const { items } = first.useQueue.getState()
    for (const { id } of items) await storage.removeItem(`item ${id}`)
    await storage.setItem('run', [{ ...items[0], state: 'writing' }, { ...items[1], state: 'done' }, 'torn'])
    const second = await opened()
    await second.recallQueue()
    expect(second.useQueue.getState().items.map(({ name, state }) => [name, state])).toEqual([
      ['a', 'waiting'],
      ['b', 'done'],
    ])
    expect(await storage.keys()).not.toContain('run')
  })
  it('tells how much is done, and how long the rest takes', async () => {
    const { secondsLeft, shareDone } = await opened()
    const item = (state: string, share: number | null) =>
      ({ state, progress: share === null ? null : { share } }) as never
    const items = [item('done', null), item('writing', 0.5), item('waiting', null), item('failed', null)]
    expect(shareDone(items)).toBe(0.625)
    expect(secondsLeft({ items, since: { at: 1000, share: 0.125 } }, 5000)).toBeCloseTo(3, 9)
    expect(secondsLeft({ items, since: null }, 5000)).toBeNull()
  })
})
