import { expect, vi } from 'vitest'
import type { QueueItem } from '../queue-item'
import { openedPage, type Page, store } from './desk'
import { chainOf, type Ledger } from './ledger'

/** A page that only reads, shared by all checks. */
let fresh: Page | null = null
export const freshPage = async (): Promise<Page> => {
  fresh ??= await openedPage()
  return fresh
}

/** Makes the storage operation of this number fail, from now on; none for 0. @returns a function that tells whether it was reached */
export function failing(at: number): () => boolean {
  let count = 0
  let failed = false
  for (const method of ['put', 'get', 'delete', 'openCursor', 'getAllKeys'] as const) {
    const real = IDBObjectStore.prototype[method] as (...args: unknown[]) => unknown
    vi.spyOn(IDBObjectStore.prototype, method).mockImplementation(function (this: IDBObjectStore, ...args: unknown[]) {
      if (++count === at) {
        failed = true
        throw new DOMException('the disk does not answer', 'UnknownError')
      }
      return real.apply(this, args)
    } as never)
  }
  return () => failed
}

/**
 * Checks that storage holds everything in the ledger.
 * @param anyPlace after two acts at once: a loop may be in the library or the trash, by whichever came last
 */
export async function checkLedger(ledger: Ledger, anyPlace = false): Promise<void> {
  const page = await freshPage()
  const kept = new Set(await store('assets').keys())
  for (const [id, { chain, place }] of ledger.loops) {
    const record = await store('loops').getItem<{ readonly deletedAt?: number }>(id)
    const is = record === null ? 'gone' : record.deletedAt === undefined ? 'library' : 'trash'
    if (is === 'trash') await store('loops').setItem(id, { ...record, deletedAt: undefined })
    const found = await page.loadLoop(id)
    if (is === 'trash') await store('loops').setItem(id, record)
    const states = found ? chainOf(found) : []
    // Storage may hold a later state: a save that failed is tried again when another loop is opened.
    const grew = states.length > chain.length && is === 'library'
    if ((grew || anyPlace) && is !== 'gone') {
      expect(states, id).toEqual(expect.arrayContaining([...chain]))
      if (grew || is !== place) ledger.tells(id, states, is)
    } else expect([is, states], id).toEqual([place, chain])
    for (const asset of page.assetsIn(found?.loop.media ?? [])) expect(kept, `the file of ${id}`).toContain(asset.id)
  }
  const items = new Map<string, string>()
  const files = new Set<string>()
  await store('queue').iterate<{ readonly item: QueueItem }, void>((stored, key) => {
    if (key.startsWith('file ')) files.add(key.slice(5))
    if (key.startsWith('item '))
      items.set(stored.item.name, `${stored.item.state} ${stored.item.id} ${stored.item.loopKey}`)
  })
  for (const [name, state] of ledger.queue) {
    const [is, id, key] = items.get(name)?.split(' ') ?? []
    expect(is, `file ${name} of the run`).toBeDefined()
    if (state === 'done') expect([is, files.has(id ?? '')]).toEqual(['done', true])
    const loop = await page.queuedLoop(key ?? '')
    for (const asset of page.assetsIn(loop?.media ?? [])) expect(kept, `the file of ${name}`).toContain(asset.id)
  }
  for (const [key, delayMs] of ledger.mends)
    expect(await page.keptMends(key)).toMatchObject({ mends: [{ kind: 'slower', delayMs }] })
  expect(await page.ownStarts()).toEqual(ledger.starts)
}
