import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it } from 'vitest'
import { PLAIN_SETTINGS, TARGETS } from '@/core/output'
import { listTargets, removeTarget, saveTarget } from './targets'

const storage = localforage.createInstance({ name: 'cyclon', storeName: 'targets' })
const badge = { id: 'badge', name: 'Harbour badge', settings: { ...PLAIN_SETTINGS, colours: 32 }, limit: 40 }

describe('targets', () => {
  beforeEach(() => storage.clear())
  it('are those that are there from the beginning, and one’s own after them', async () => {
    expect(await listTargets()).toEqual(TARGETS)
    await saveTarget(badge)
    expect(await listTargets()).toEqual([...TARGETS, badge])
    await removeTarget('badge')
    expect(await listTargets()).toEqual(TARGETS)
  })
  it('are changed where they stand, and can be as they were', async () => {
    const [first] = TARGETS as [(typeof TARGETS)[number]]
    await saveTarget({ ...first, limit: 12 })
    expect((await listTargets())[0]?.limit).toBe(12)
    await removeTarget(first.id)
    expect((await listTargets())[0]).toEqual(first)
  })
  it('leave out what cannot be read, and keep it', async () => {
    await storage.setItem('odd', { id: 'odd', name: 7 })
    expect(await listTargets()).toEqual(TARGETS)
    expect(await storage.getItem('odd')).toEqual({ id: 'odd', name: 7 })
    await expect(async () => saveTarget({ ...badge, name: '' })).rejects.toThrow()
  })
})
