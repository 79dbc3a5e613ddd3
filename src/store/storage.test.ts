import 'fake-indexeddb/auto'
import { describe, expect, it, vi } from 'vitest'
import { STORES } from './storage'

/** Names of the stores that there are, and the version of the database. */
async function database(): Promise<{ readonly names: readonly string[]; readonly version: number }> {
  const opened = await new Promise<IDBDatabase>((resolve) => {
    const request = indexedDB.open('cyclon')
    request.onsuccess = () => resolve(request.result)
  })
  const found = { names: [...opened.objectStoreNames], version: opened.version }
  opened.close()
  return found
}
const page = async () => {
  vi.resetModules()
  return import('./storage')
}

describe('the stores of this browser', () => {
  it('are made at once, before the first of them is used, however many are used first', async () => {
    const opened = vi.spyOn(IDBFactory.prototype, 'open')
    const { storeOf } = await page()
    await Promise.all(STORES.map((name) => storeOf(name).setItem('key', name)))
    for (const name of STORES) expect(await storeOf(name).getItem('key')).toBe(name)
    expect(opened.mock.calls.filter(([, version]) => version !== undefined && version > 1)).toEqual([])
    const { names, version } = await database()
    expect([names.length, version]).toEqual([STORES.length + 1, 1])
    vi.restoreAllMocks()
  })
  it('are added to those that an older version made, and nothing is lost', async () => {
    await new Promise((resolve) => {
      indexedDB.deleteDatabase('cyclon').onsuccess = resolve
    })
    await new Promise<void>((resolve) => {
      const request = indexedDB.open('cyclon', 3)
      request.onupgradeneeded = () => request.result.createObjectStore('loops').put('work', 'quay')
      request.onsuccess = () => {
        request.result.close()
        resolve()
      }
    })
    const { storeOf } = await page()
    expect(await storeOf('queue').getItem('key')).toBeNull()
    expect(await storeOf('loops').getItem('quay')).toBe('work')
    expect((await database()).version).toBe(4)
  })
})
