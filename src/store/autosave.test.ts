import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { MAX_NAME } from '@/core/document'
import { quay as loop } from '@/core/testing/quay'
import { keepAsCopy, openFromFile, openStored, openUnsaved, saveNow, takeStored, useSaveState } from './autosave'
import { changeLoop, currentHistory, documentStore, openLoop, undo } from './document'
import { loadLoop, revisionOf, saveLoop, trashLoop } from './library'
import { eventually } from './testing/eventually'

const other = { ...loop, id: 'pier', name: 'Pier' }
const open = () => documentStore.getState().loop
const rename = (name: string) => changeLoop((current) => ({ ...current, name }))
const state = () => useSaveState.getState().state
const stored = async (id = 'quay') => (await loadLoop(id))?.loop.name

describe('saving the open loop', () => {
  beforeEach(async () => {
    vi.restoreAllMocks()
    openLoop({ ...loop, id: 'elsewhere' })
    for (const storeName of ['loops', 'histories'])
      await localforage.createInstance({ name: 'cyclon', storeName }).clear()
    await openUnsaved(loop)
  })

  it('keeps a loop with its history, and opens it again with both', async () => {
    rename('a')
    rename('b')
    undo()
    await saveNow()
    expect(await stored()).toBe('a')
    await openUnsaved(other)
    expect(await openStored('quay')).toBe(true)
    expect(open()?.name).toBe('a')
    expect(currentHistory().past.map(({ name }) => name)).toEqual(['Quay'])
    expect(currentHistory().future.map(({ name }) => name)).toEqual(['b'])
    expect(state()).toBe('saved')
  })
  it('writes nothing where nothing has changed', async () => {
    rename('a')
    await saveNow()
    const put = vi.spyOn(IDBObjectStore.prototype, 'put')
    await saveNow()
    expect(put).not.toHaveBeenCalled()
    undo()
    await saveNow()
    expect(put).toHaveBeenCalled()
  })
  it('leaves what is open as it is when it is opened again, with changes that are not saved yet', async () => {
    rename('a')
    const before = open()
    expect(await openStored('quay')).toBe(true)
    expect(open()).toBe(before)
    expect(await stored()).toBe('a')
    expect(await openStored('nowhere')).toBe(false)
    expect(open()).toBe(before)
  })
  it('opens what another tab has saved since, where nothing was changed here', async () => {
    await saveLoop({ ...loop, name: 'theirs' }, undefined, await revisionOf('quay'))
    expect(await openStored('quay')).toBe(true)
    expect(open()?.name).toBe('theirs')
  })

  const conflict = async () => {
    await saveLoop({ ...loop, name: 'theirs' }, undefined, await revisionOf('quay'))
    rename('mine')
    await saveNow()
    expect(state()).toBe('conflict')
    expect(await stored()).toBe('theirs')
  }
  it('never writes over another tab’s work; mine goes on as a copy with its history', async () => {
    await conflict()
    await saveNow()
    expect(await stored()).toBe('theirs')
    const id = await keepAsCopy()
    expect(await stored(id ?? '')).toBe('mine (copy)')
    expect(await stored()).toBe('theirs')
    undo()
    expect(open()).toMatchObject({ id, name: 'Quay' })
    await saveNow()
    expect([state(), await stored(id ?? '')]).toEqual(['saved', 'Quay'])
  })
  it('takes the other’s over when told to; mine is a step of undo away', async () => {
    await conflict()
    await takeStored()
    expect([open()?.name, state()]).toEqual(['theirs', 'saved'])
    undo()
    expect(open()?.name).toBe('mine')
    await saveNow()
    expect([state(), await stored()]).toEqual(['saved', 'mine'])
  })
  it('keeps the name of a copy within its bounds', async () => {
    rename('x'.repeat(MAX_NAME))
    await saveNow()
    await conflict()
    rename('y'.repeat(MAX_NAME))
    const id = await keepAsCopy()
    expect(await stored(id ?? '')).toHaveLength(MAX_NAME)
  })

  it('says that it failed, goes on in memory, and saves when that is possible again', async () => {
    vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(() => {
      throw new DOMException('no room left', 'QuotaExceededError')
    })
    rename('a')
    await saveNow()
    expect(useSaveState.getState()).toMatchObject({ state: 'failed', problem: expect.stringContaining('full') })
    expect([open()?.name, await stored()]).toEqual(['a', 'Quay'])
    vi.restoreAllMocks()
    await saveNow()
    expect([state(), await stored()]).toEqual(['saved', 'a'])
  })

  it('opens a file beside another state of the same loop, and as the loop itself where it is the same', async () => {
    rename('a')
    await saveNow()
    const beside = await openFromFile({ ...loop, name: 'from afar' })
    expect(beside.id).not.toBe('quay')
    expect([open()?.name, await stored(), await stored(beside.id)]).toEqual(['from afar', 'a', 'from afar'])
    const same = await openFromFile({ ...loop, name: 'a' })
    expect(same.id).toBe('quay')
    expect(currentHistory().past.map(({ name }) => name)).toEqual(['Quay'])
  })

  it('opens a file beside what could not be read, and writes nothing over that', async () => {
    rename('newer')
    await saveNow()
    openLoop({ ...loop, id: 'elsewhere' })
    const get = IDBObjectStore.prototype.get
    let failing = true
    vi.spyOn(IDBObjectStore.prototype, 'get').mockImplementation(function (this: IDBObjectStore, key) {
      if (failing) throw new DOMException('the disk does not answer', 'UnknownError')
      return get.call(this, key)
    })
    const opening = openFromFile(loop)
    await eventually(() => expect(state()).toBe('failed'))
    failing = false
    const beside = await opening
    expect(beside.id).not.toBe('quay')
    await saveNow()
    expect([await stored(), await stored(beside.id)]).toEqual(['newer', 'Quay'])
  })
  it('ends a conflict with what another tab has put into the trash: that is taken out', async () => {
    await saveLoop({ ...loop, name: 'theirs' }, undefined, await revisionOf('quay'))
    await trashLoop('quay', true)
    rename('mine')
    await saveNow()
    expect(state()).toBe('conflict')
    await takeStored()
    expect([open()?.name, state(), await stored()]).toEqual(['theirs', 'saved', 'theirs'])
  })
})
