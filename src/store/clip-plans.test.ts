import 'fake-indexeddb/auto'
import localforage from 'localforage'
import { beforeEach, describe, expect, it } from 'vitest'
import type { KeptMends } from '@/core/footage/mends/kept'
import { keepMends, keptMends, keyOfFiles } from './clip-plans'

const plans = localforage.createInstance({ name: 'cyclon', storeName: 'plans' })
const kept: KeptMends = { mends: [{ kind: 'crop', from: 2, to: 9 }], undone: [{ kind: 'reverse' }] }
const file = (text: string, name = 'wake.webm') => new File([text], name)

describe('what files are told by', () => {
  it('is what is in them, whatever they are called; and all of several', async () => {
    const key = await keyOfFiles([file('foam')])
    expect(await keyOfFiles([file('foam', 'other.webm')])).toBe(key)
    for (const other of [[file('foal')], [file('foam ')], [file('foam'), file('foam')]])
      expect(await keyOfFiles(other)).not.toBe(key)
  })
  it('is their start and their end, where they are large, and how large they are', async () => {
    const long = (middle: string, size = 400_000) => file(`start${middle.repeat(size)}end`)
    const key = await keyOfFiles([long('a')])
    expect(await keyOfFiles([long('a', 400_001)])).not.toBe(key)
    expect(await keyOfFiles([file(`start${'a'.repeat(400_000)}eNd`)])).not.toBe(key)
  })
})

describe('what was done to a file', () => {
  beforeEach(() => plans.clear())
  it('is there the next time, until nothing is done to it any more', async () => {
    await keepMends('wake', kept)
    expect(await keptMends('wake')).toEqual(kept)
    expect(await keptMends('lamp')).toBeNull()
    await keepMends('wake', { mends: [], undone: [] })
    expect([await keptMends('wake'), await plans.length()]).toEqual([null, 0])
  })
  it('is not read where it is damaged, or of another version', async () => {
    for (const value of [null, 'words', { mends: [{ kind: 'unknown' }], undone: [] }, { mends: kept.mends }]) {
      await plans.setItem('wake', value)
      expect(await keptMends('wake')).toBeNull()
    }
  })
  it('is kept of a hundred files: those that were changed longest ago go first', async () => {
    for (let n = 0; n < 104; n++) {
      await keepMends(`file ${n}`, kept)
      const now = await plans.getItem<object>(`file ${n}`)
      await plans.setItem(`file ${n}`, { ...now, at: n })
    }
    expect(await plans.length()).toBeLessThanOrEqual(101)
    expect(await keptMends('file 0')).toBeNull()
    expect(await keptMends('file 103')).toEqual(kept)
  })
})
