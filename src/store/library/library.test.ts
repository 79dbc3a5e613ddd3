import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { readAllStored } from '@/core/edit'
import { quay as loop } from '@/core/testing/quay'
import type { History } from '../document'
import {
  ConflictError,
  changeStored,
  deleteLoop,
  listLoops,
  loadLoop,
  loopNames,
  StorageError,
  saveLoop,
  storedAs,
  TRASH_MS,
  trashCount,
  trashLoop,
} from '.'

const readHere = async (all: Parameters<typeof readAllStored>[0]) => readAllStored(all)
const named = (name: string) => ({ ...loop, name })
const history = (...names: string[]): History => ({ past: names.map(named), future: [] })
const store = (storeName: string) => localforage.createInstance({ name: 'cyclon', storeName })
const names = async (id = 'quay') => {
  const found = await loadLoop(id)
  return found && [found.loop.name, ...found.history.past.map((each) => each.name)]
}

describe('the library', () => {
  beforeEach(async () => {
    vi.restoreAllMocks()
    await Promise.all(['loops', 'histories'].map((each) => store(each).clear()))
  })

  it('gives back a loop with its history', async () => {
    await saveLoop(named('b'), history('a'))
    expect(await names()).toEqual(['b', 'a'])
    await saveLoop(named('c'), history('a', 'b'))
    expect(await names()).toEqual(['c', 'a', 'b'])
    expect(await store('histories').keys()).toHaveLength(1)
    expect(await loadLoop('pier')).toBeNull()
  })

  /** Every write of one save fails in its turn, as where the page is closed or the storage is full. */
  it.each([1, 2])('holds the state before, with its history, when write %d of a save fails', async (failing) => {
    await saveLoop(named('b'), history('a'))
    let writes = 0
    const put = IDBObjectStore.prototype.put
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, ...args) {
      writes++
      if (writes === failing) throw new DOMException('no room left', 'QuotaExceededError')
      return put.apply(this, args)
    })
    await expect(saveLoop(named('c'), history('a', 'b'))).rejects.toThrow(StorageError)
    expect(writes).toBe(failing)
    vi.restoreAllMocks()
    expect(await names()).toEqual(['b', 'a'])
    await listLoops(readHere)
    expect(await store('histories').keys()).toHaveLength(1)
  })

  it('does not write over what another tab has saved since', async () => {
    const opened = await saveLoop(named('a'))
    await saveLoop(named('theirs'), undefined, opened)
    await expect(saveLoop(named('mine'), undefined, opened)).rejects.toThrow(ConflictError)
    expect(await names()).toEqual(['theirs'])
  })

  it('takes histories away that no loop owns', async () => {
    await saveLoop(named('b'), history('a'))
    await store('histories').setItem('quay left-by-a-closed-page', history())
    expect((await listLoops(readHere)).map((entry) => entry.loop?.name)).toEqual(['b'])
    expect(await store('histories').keys()).toHaveLength(1)
    expect(await names()).toEqual(['b', 'a'])
  })

  it('can be written to while a list of it is still being read, and where that never ends', async () => {
    let held: Promise<unknown> = Promise.resolve()
    // Web locks, one after the other, as browsers have them.
    vi.stubGlobal('navigator', {
      locks: {
        request: (_name: string, work: () => Promise<unknown>) => {
          const turn = held.then(work)
          held = turn.catch(() => {})
          return turn
        },
      },
    })
    await saveLoop(named('a'))
    void listLoops(() => new Promise(() => {}))
    await saveLoop(named('b'))
    expect((await listLoops(readHere))[0]?.loop?.name).toBe('b')
    vi.unstubAllGlobals()
  })
  it('keeps a damaged record and names what is wrong', async () => {
    await saveLoop(loop)
    await store('loops').setItem('broken', { loop: { format: 'cyclon-loop', version: 1 }, savedAt: 1 })
    const entries = await listLoops(readHere)
    expect(entries.map(({ id }) => id)).toEqual(['quay', 'broken'])
    expect(entries[1]).toMatchObject({ loop: null, problem: expect.stringContaining('The field') })
    expect(await store('loops').keys()).toHaveLength(2)
  })

  it('brings a deleted loop back with its history', async () => {
    await saveLoop(named('b'), history('a'))
    const restore = await deleteLoop('quay')
    expect(await names()).toBeNull()
    await restore()
    expect(await names()).toEqual(['b', 'a'])
  })
  it('keeps what is in the trash, with its history, until it is brought back, deleted for good, or too old', async () => {
    const ids = async (from?: 'trash') => (await listLoops(readHere, from)).map(({ id }) => id)
    await saveLoop(named('b'), history('a'))
    await saveLoop({ ...loop, id: 'pier' })
    await trashLoop('quay', true)
    expect([await ids(), await ids('trash'), await trashCount()]).toEqual([['pier'], ['quay'], 1])
    expect(await names()).toBeNull()
    expect(await storedAs('quay')).toBeNull()
    expect((await storedAs('quay', 'trash'))?.name).toBe('b')
    expect((await loopNames()).map(({ id }) => id)).toEqual(['pier'])
    await trashLoop('quay', false)
    expect(await names()).toEqual(['b', 'a'])
    // Deleted for good from the trash.
    await trashLoop('quay', true)
    await deleteLoop('quay')
    expect([await ids('trash'), await names()]).toEqual([[], null])
    // Thirty days later.
    await saveLoop(named('b'), history('a'))
    await trashLoop('quay', true)
    vi.spyOn(Date, 'now').mockReturnValue(Date.now() + TRASH_MS + 1000)
    expect([await ids('trash'), await ids()]).toEqual([[], ['pier']])
    expect(await store('loops').keys()).toEqual(['pier'])
    await ids()
    expect(await store('histories').keys()).toEqual([])
  })
  it('changes what it holds of a loop, and leaves its history', async () => {
    await saveLoop(named('b'), history('a'))
    const { revision } = (await loadLoop('quay')) ?? {}
    await changeStored('quay', (each) => ({ ...each, name: 'c', note: 'For the pier.' }))
    expect(await names()).toEqual(['c', 'a'])
    expect((await loadLoop('quay'))?.loop.note).toBe('For the pier.')
    // A tab that has it open notices.
    await expect(saveLoop(named('d'), undefined, revision)).rejects.toThrow(ConflictError)
  })
})
