import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Loop } from '@/core/document'
import { readAllStored } from '@/core/edit'
import { type Asset, type Files, keepAtHand, madeAsset } from '@/core/media'
import { pierOf, wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import type { History } from '../document'
import { StorageError } from '.'

const store = (storeName: string) => localforage.createInstance({ name: 'cyclon', storeName })
const readHere = async (all: Parameters<typeof readAllStored>[0]) => readAllStored(all)
const bytes = (text: string) => new TextEncoder().encode(text)

/** A page that has just been opened: it knows what is stored, and nothing else. */
async function page() {
  vi.resetModules()
  const library = await import('.')
  const media = await import('@/core/media')
  const queue = await import('../queue-storage')
  const textOf = async (asset: Asset, n = 0) => (await media.partFile(asset, n))?.text() ?? null
  const list = async () => (await library.listLoops(readHere)).map(({ loop }) => loop?.name)
  // The edited loop descends from the stored revision, as in an editor.
  const saveLoop = async (loop: Loop, history?: History, base?: string) =>
    library.saveLoop(loop, history, base ?? (await library.revisionOf(loop.id)))
  const deleteLoop = async (id: string) => {
    const shown = (await library.listLoops(readHere)).find((entry) => entry.id === id)
    return shown ? library.deleteForGood(shown) : null
  }
  return { ...library, ...media, ...queue, textOf, list, saveLoop, deleteLoop }
}
type Page = Awaited<ReturnType<typeof page>>

const frames = await madeAsset('image/png', [bytes('fore'), bytes('after')])
const source = { name: 'wake.mp4', file: await madeAsset('video/mp4', bytes('as it came')) }
const clip = wakeOf([40, 40], { frames, source })
const files: Files = new Map([
  [frames.id, new Blob(['foreafter'])],
  [source.file.id, new Blob(['as it came'])],
])
const named = (name: string, media: Loop['media'] = []): Loop => ({ ...quay, name, media })
const withClip = (name: string) => named(name, [clip])
const kept = async () => (await store('assets').keys()).sort()
const all = [frames.id, source.file.id].sort()

/** A page into which the clip has been brought. */
async function pageWithClip(): Promise<Page> {
  const own = await page()
  own.keepAtHand(files)
  return own
}

/** The next writes fail, from one on, as where the page is closed; or that one alone, as where the storage is full. */
function failing(at: number, onwards: boolean): () => number {
  let writes = 0
  const put = IDBObjectStore.prototype.put
  vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, ...args) {
    writes++
    if (writes === at || (onwards && writes > at)) throw new DOMException('no room left', 'QuotaExceededError')
    return put.apply(this, args)
  })
  return () => writes
}

beforeEach(async () => {
  vi.restoreAllMocks()
  // Storage tries out once whether it can keep blobs: that is no write of a save.
  await store('assets').setItem('tried', new Blob(['out']))
  await Promise.all(['loops', 'histories', 'assets', 'media', 'queue'].map((each) => store(each).clear()))
})

describe('the files of loops', () => {
  it('are kept once, as they came, apart from the loop and all steps of its history, and found by the next page', async () => {
    const first = await pageWithClip()
    await first.saveLoop(withClip('b'), { past: [named('none yet'), withClip('a')], future: [] })
    expect(await kept()).toEqual(all)
    for (const part of ['loops', 'histories'])
      await store(part).iterate((record) => expect(JSON.stringify(record)).not.toContain('fore'))
    const next = await page()
    const found = await next.loadLoop('quay')
    expect(found?.loop.media).toEqual([clip])
    expect(found?.history.past.map(({ media }) => media.length)).toEqual([0, 1])
    expect([await next.textOf(frames, 0), await next.textOf(frames, 1)]).toEqual(['fore', 'after'])
    expect(await next.textOf(source.file)).toBe('as it came')
  })
  it('are shared by loops, and kept as long as one of them, or an undo, shows them', async () => {
    const own = await pageWithClip()
    await own.saveLoop(withClip('one'))
    await own.saveLoop({ ...withClip('two'), id: 'pier' })
    expect(await kept()).toEqual(all)
    await own.deleteLoop('quay')
    await own.list()
    expect(await kept()).toEqual(all)
    await own.saveLoop(
      { ...named('two, without'), id: 'pier' },
      { past: [{ ...withClip('two'), id: 'pier' }], future: [] },
    )
    await own.list()
    expect(await kept()).toEqual(all)
    await own.saveLoop({ ...named('two, later'), id: 'pier' }, { past: [], future: [] })
    await own.list()
    expect(await kept()).toEqual([])
  })
  it('stay for a variant and for the queue, when the loop that they came with has been deleted', async () => {
    const own = await pageWithClip()
    await own.saveLoop(withClip('source'))
    await own.saveLoop({ ...withClip('variant'), id: 'night' })
    await own.addToRun(new Map([['k', withClip('as it was')]]), [])
    await own.deleteLoop('quay')
    await own.deleteLoop('night')
    await own.list()
    expect(await kept()).toEqual(all)
    const next = await page()
    expect((await next.queuedLoop('k'))?.media).toEqual([clip])
    expect(await next.textOf(frames, 1)).toBe('after')
    await next.removeFromRun([])
    await next.list()
    expect(await kept()).toEqual([])
  })
  it('come back with a deleted loop, though they have been let go', async () => {
    const own = await pageWithClip()
    await own.saveLoop(withClip('b'))
    const restore = await own.deleteLoop('quay')
    await own.list()
    expect(await kept()).toEqual([])
    expect(await restore?.()).toBe('quay')
    const next = await page()
    expect((await next.loadLoop('quay'))?.loop.media).toEqual([clip])
    expect(await next.textOf(frames)).toBe('fore')
  })
  it('are stored again by a page that still shows them, when another one has let go of them', async () => {
    const own = await pageWithClip()
    await own.saveLoop(withClip('mine'))
    const other = await page()
    await other.deleteLoop('quay')
    await other.list()
    expect(await kept()).toEqual([])
    await own.saveLoop(withClip('mine, changed'))
    const next = await page()
    expect((await next.loadLoop('quay'))?.loop.name).toBe('mine, changed')
    expect(await next.textOf(frames)).toBe('fore')
  })
  it('that are missing are said to be so by name', async () => {
    const own = await page()
    const lost = pierOf({ file: { ...frames, id: frames.id.replace(/^./, 'f') } })
    await own.saveLoop(named('torn', [lost]))
    expect(await own.mediaWithoutFiles([lost])).toEqual(['pier'])
    own.keepAtHand(new Map([[lost.file.id, new Blob(['of another size'])]]))
    expect(await own.mediaWithoutFiles([lost])).toEqual(['pier'])
  })
})

describe('a save with files that breaks off', () => {
  /** One write for each file, one for the history, one for the record. */
  const WRITES = 4
  it.each([false, true].flatMap((onwards) => Array.from({ length: WRITES }, (_, i) => [i + 1, onwards] as const)))(
    'at write %d (and from then on: %s) leaves the state before, and what it brought goes',
    async (at, onwards) => {
      const own = await pageWithClip()
      await own.saveLoop(named('b'), { past: [named('a')], future: [] })
      const writes = failing(at, onwards)
      await expect(own.saveLoop(withClip('c'), { past: [named('a'), named('b')], future: [] })).rejects.toMatchObject({
        name: StorageError.name,
      })
      expect(writes()).toBe(at)
      vi.restoreAllMocks()
      const next = await page()
      const found = await next.loadLoop('quay')
      expect([found?.loop.name, found?.loop.media, found?.history.past.map(({ name }) => name)]).toEqual([
        'b',
        [],
        ['a'],
      ])
      expect(await next.list()).toEqual(['b'])
      expect(await kept()).toEqual([])
      // The page in which it failed has everything still, and saves it when there is room again.
      await own.saveLoop(withClip('c'), { past: [named('a'), named('b')], future: [] })
      const last = await page()
      expect((await last.loadLoop('quay'))?.loop.name).toBe('c')
      expect(await last.textOf(frames)).toBe('fore')
    },
  )
  it('after its last write is the state after', async () => {
    const own = await pageWithClip()
    const writes = failing(WRITES + 1, true)
    await own.saveLoop(withClip('c'), { past: [named('b')], future: [] })
    expect(writes()).toBe(WRITES)
    vi.restoreAllMocks()
    const next = await page()
    expect(await next.list()).toEqual(['c'])
    expect(await next.textOf(frames, 1)).toBe('after')
  })
  it('while another page clears up never loses a file that a record names', async () => {
    const own = await pageWithClip()
    let held: Promise<unknown> = Promise.resolve()
    vi.stubGlobal('navigator', {
      userAgent: 'Node',
      locks: {
        request: (_name: string, work: () => Promise<unknown>) => {
          const turn = held.then(work)
          held = turn.catch(() => {})
          return turn
        },
      },
    })
    const other = await page()
    await Promise.all([
      own.saveLoop(withClip('c')),
      other.list(),
      own.addToRun(new Map([['k', withClip('c')]]), []),
      other.list(),
    ])
    vi.unstubAllGlobals()
    expect(await kept()).toEqual(all)
  })
})

describe('media of version 2', () => {
  const oldLoop = (name: string) => ({
    ...JSON.parse(JSON.stringify(named(name))),
    version: 2,
    media: undefined,
    pictures: [{ id: 'pier', name: 'Pier', type: 'image/png', width: 4, height: 3, data: '' }],
    clips: [
      {
        id: 'wake',
        name: 'Wake',
        type: 'image/png',
        width: 4,
        height: 3,
        verdict: 'closes',
        delaysMs: [40, 40],
        frames: ['', ''],
      },
    ],
  })
  const record = () => {
    const { media: _none, ...loop } = oldLoop('old')
    return { loop, savedAt: 1, revision: 'r', media: ['pier', 'wake'] }
  }
  const fill = async () => {
    await store('media').setItem('pier', [btoa('pier')])
    await store('media').setItem('wake', [btoa('fore'), btoa('after')])
    await store('loops').setItem('quay', record())
  }
  const look = async (own: Page) => {
    const media = (await own.loadLoop('quay'))?.loop.media ?? []
    return Promise.all(own.picturesOf(media).map(async (each) => (await own.readPictureFile(each))?.text() ?? null))
  }

  it('become files of their own when they are first read, and are the same from then on', async () => {
    await fill()
    expect(await look(await page())).toEqual(['pier', 'fore', 'after'])
    expect(await kept()).toHaveLength(2)
    const own = await page()
    await own.list()
    expect(await look(own)).toEqual(['pier', 'fore', 'after'])
    const found = await own.loadLoop('quay')
    await own.saveLoop({ ...(found?.loop as Loop), name: 'saved anew' }, found?.history, 'r')
    const next = await page()
    await next.list()
    expect(await store('media').keys()).toEqual([])
    expect(await look(next)).toEqual(['pier', 'fore', 'after'])
  })
  it.each([1, 2, 3, 4])('are lost at no point of that, where write %d fails and the page is closed', async (at) => {
    await fill()
    const writes = failing(at, true)
    await (await page()).loadLoop('quay').catch(() => null)
    expect(writes()).toBeGreaterThanOrEqual(at)
    vi.restoreAllMocks()
    await (await page()).list()
    expect(await look(await page())).toEqual(['pier', 'fore', 'after'])
  })
  it('that lie in the document itself come out of it', async () => {
    const { media: _none, ...loop } = oldLoop('older')
    const inside = { ...loop, pictures: [{ ...loop.pictures[0], data: btoa('pier') }], clips: [] }
    await store('loops').setItem('quay', { loop: inside, savedAt: 1, revision: 'r' })
    expect(await look(await page())).toEqual(['pier'])
  })
  it('that are damaged are missing, and the loop opens', async () => {
    await fill()
    await store('media').setItem('pier', ['no base64 at all!'])
    expect(await look(await page())).toEqual([null, 'fore', 'after'])
  })
})

keepAtHand(files)
