import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { makeVariant, NO_CHANGE, readAllStored } from '@/core/edit'
import { quay as loop } from '@/core/testing/quay'
import type { History } from '../document'
import {
  ConflictError,
  changeStored,
  deleteForGood,
  heldAs,
  listLoops,
  loadLoop,
  loopNames,
  revisionOf,
  StorageError,
  saveLoop as saveAt,
  TRASH_MS,
  trashCount,
  trashLoop,
} from '.'

const readHere = async (all: Parameters<typeof readAllStored>[0]) => readAllStored(all)
const named = (name: string) => ({ ...loop, name })
const history = (...names: string[]): History => ({ past: names.map(named), future: [] })
const store = (storeName: string) => localforage.createInstance({ name: 'cyclon', storeName })
/** Saves what grew from what is stored. */
const saveLoop = async (of: typeof loop, states?: History) => saveAt(of, states, await revisionOf(of.id))
/** Deletes a loop as it is shown just now. */
const deleteLoop = async (id: string) => {
  const shown = [...(await listLoops(readHere)), ...(await listLoops(readHere, 'trash'))].find(
    (entry) => entry.id === id,
  )
  return deleteForGood(shown ?? { id, savedAt: 0 })
}
const names = async (id = 'quay') => {
  const found = await loadLoop(id)
  return found && [found.loop.name, ...found.history.past.map((each) => each.name)]
}

/** Web locks, one after the other, as browsers have them. */
function inTurn() {
  let held: Promise<unknown> = Promise.resolve()
  return {
    request: (_name: string, work: () => Promise<unknown>) => {
      const turn = held.then(work)
      held = turn.catch(() => {})
      return turn
    },
  }
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
    await saveAt(named('theirs'), undefined, opened)
    await expect(saveAt(named('mine'), undefined, opened)).rejects.toThrow(ConflictError)
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
    vi.stubGlobal('navigator', { locks: inTurn() })
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

  it('is not written over by what was never read of it, nor by what is new', async () => {
    await saveLoop(named('kept'), history('a'))
    await expect(saveAt(named('new'))).rejects.toThrow(ConflictError)
    await trashLoop('quay', true)
    await expect(saveAt(named('new'))).rejects.toThrow(ConflictError)
    await trashLoop('quay', false)
    expect(await names()).toEqual(['kept', 'a'])
  })
  it('takes a loop out of the trash that another tab goes on with, and not one that was changed since it was opened there', async () => {
    const opened = await saveLoop(named('a'))
    await trashLoop('quay', true)
    const later = await saveAt(named('b'), history('a'), opened)
    expect([await names(), await trashCount()]).toEqual([['b', 'a'], 0])
    await saveAt(named('theirs'), undefined, later)
    await trashLoop('quay', true)
    await expect(saveAt(named('mine'), undefined, later)).rejects.toThrow('changed and deleted in another tab')
    expect(await trashCount()).toBe(1)
  })
  it('deletes nothing for good that was taken back or changed since it was shown', async () => {
    await saveLoop(named('a'))
    await trashLoop('quay', true)
    const [shown] = await listLoops(readHere, 'trash')
    if (!shown) throw new Error('the trash is empty')
    await trashLoop('quay', false)
    expect(await deleteForGood(shown)).toBeNull()
    await saveLoop(named('b'), history('a'))
    expect(await names()).toEqual(['b', 'a'])
    // Put into the trash once more, it is not what was shown there either.
    vi.spyOn(Date, 'now').mockReturnValue(Date.now() + 1000)
    await trashLoop('quay', true)
    expect(await deleteForGood(shown)).toBeNull()
    expect(await trashCount()).toBe(1)
  })
  it('puts back what was deleted for good beside what has taken its id since', async () => {
    await saveLoop(named('b'), history('a'))
    const putBack = await deleteLoop('quay')
    await saveAt(named('another'))
    const id = (await putBack?.()) as string
    expect(id).not.toBe('quay')
    await listLoops(readHere)
    expect([await names(), await names(id)]).toEqual([['another'], ['b', 'a']])
    expect((await loadLoop(id))?.history.past.map((each) => each.id)).toEqual([id])
  })
  it('loses no change that another tab saves while a loop is put into the trash', async () => {
    vi.stubGlobal('navigator', { locks: inTurn() })
    await saveLoop(named('a'))
    const opened = (await revisionOf('quay')) as string
    const { loops } = await import('./records')
    const write = loops.setItem.bind(loops)
    let saving: Promise<unknown> = Promise.resolve()
    // Between its reading and its writing another tab saves, where nothing keeps it from that.
    vi.spyOn(loops, 'setItem').mockImplementationOnce(async (id, record) => {
      saving = saveAt(named('b'), history('a'), opened)
      await Promise.race([saving, new Promise((resolve) => setTimeout(resolve, 200))])
      return write(id, record)
    })
    await trashLoop('quay', true)
    await saving
    expect((await heldAs('quay'))?.loop?.name).toBe('b')
    vi.unstubAllGlobals()
  })
  it('brings a deleted loop back with its history', async () => {
    await saveLoop(named('b'), history('a'))
    const restore = await deleteLoop('quay')
    expect(await names()).toBeNull()
    expect(await restore?.()).toBe('quay')
    expect(await names()).toEqual(['b', 'a'])
  })
  it('keeps what is in the trash, with its history, until it is brought back, deleted for good, or too old', async () => {
    const ids = async (from?: 'trash') => (await listLoops(readHere, from)).map(({ id }) => id)
    await saveLoop(named('b'), history('a'))
    await saveLoop({ ...loop, id: 'pier' })
    await trashLoop('quay', true)
    expect([await ids(), await ids('trash'), await trashCount()]).toEqual([['pier'], ['quay'], 1])
    expect(await names()).toBeNull()
    expect(await heldAs('quay')).toMatchObject({ loop: { name: 'b' }, trashed: true })
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
    await expect(saveAt(named('d'), undefined, revision)).rejects.toThrow(ConflictError)
  })

  describe('a variant', () => {
    const bluer = { ...loop, background: '#123456' }
    const follower = () => makeVariant(loop, 'Night', { ...NO_CHANGE, faster: 2 }, 'night')
    const shown = async () => (await loadLoop('night'))?.loop.background
    const listed = async () => (await listLoops(readHere)).find(({ id }) => id === 'night')?.loop?.background

    it('follows its source into the trash, in a list and where it is opened', async () => {
      await saveLoop(loop)
      await saveLoop(follower())
      await saveLoop(bluer)
      await trashLoop('quay', true)
      expect([await shown(), await listed()]).toEqual(['#123456', '#123456'])
    })
    it('stays as it was seen last, its revision too, when its source is deleted for good or has been in the trash too long', async () => {
      for (const goes of [
        async () => void (await deleteLoop('quay')),
        async () => {
          await trashLoop('quay', true)
          vi.spyOn(Date, 'now').mockReturnValue(Date.now() + TRASH_MS + 1000)
          await listLoops(readHere)
          vi.restoreAllMocks()
        },
      ]) {
        await store('loops').clear()
        await saveLoop(loop)
        const revision = await saveAt(follower())
        await saveLoop(bluer)
        await goes()
        expect(await heldAs('quay')).toBeNull()
        expect([await shown(), await listed(), await revisionOf('night')]).toEqual(['#123456', '#123456', revision])
      }
    })
  })
})
