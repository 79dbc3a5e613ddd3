import 'fake-indexeddb/auto'
import fc from 'fast-check'
import localforage from 'localforage'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Loop } from '@/core/document'
import { readAllStored } from '@/core/edit'
import { quay } from '@/core/testing/quay'
import type { History } from '../document'
import { listLoops, loadLoop, revisionOf, saveLoop as saveAt } from '.'
import { histories, historyKey, loops } from './records'

let count = 0
const state = (): Loop => ({ ...quay, name: `state ${count++}` })

/** A document as an editor has it: a state with steps on both sides, of which a limited number can be undone. */
interface Edited {
  readonly loop: Loop
  readonly history: History
}
const LIMIT = 40
const change = ({ loop, history }: Edited): Edited => ({
  loop: state(),
  history: { past: [...history.past, loop].slice(-LIMIT), future: [] },
})
const undo = (edited: Edited): Edited => {
  const { past, future } = edited.history
  const loop = past.at(-1)
  return loop ? { loop, history: { past: past.slice(0, -1), future: [edited.loop, ...future] } } : edited
}
const redo = (edited: Edited): Edited => {
  const { past, future } = edited.history
  const [loop] = future
  return loop ? { loop, history: { past: [...past, edited.loop], future: future.slice(1) } } : edited
}
const names = ({ loop, history }: Edited) => [history.past, [loop], history.future].map((row) => row.map((x) => x.name))
const times = (n: number, step: (edited: Edited) => Edited, edited: Edited): Edited =>
  n === 0 ? edited : times(n - 1, step, step(edited))

/** Saves what grew from what is stored. */
const saveLoop = async (of: Loop, history?: History) => saveAt(of, history, await revisionOf(of.id))

/** How many states a save writes, beside the loop itself. */
async function statesWritten(save: () => Promise<unknown>): Promise<number> {
  let states = 0
  const put = IDBObjectStore.prototype.put
  const spy = vi.spyOn(IDBObjectStore.prototype, 'put').mockImplementation(function (this: IDBObjectStore, ...args) {
    if (this.name === 'histories') states += (args[0] as readonly Loop[]).length
    return put.apply(this, args)
  })
  await save()
  spy.mockRestore()
  return states
}

describe('a history that is saved', () => {
  beforeEach(async () => {
    await Promise.all([loops.clear(), histories.clear()])
  })

  it('is what was there, whatever was changed, undone and redone between saves', async () => {
    const step = fc.record({ n: fc.integer({ min: 1, max: 25 }), kind: fc.constantFrom(change, change, undo, redo) })
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 12 }), async (steps) => {
        let edited: Edited = { loop: state(), history: { past: [], future: [] } }
        for (const { n, kind } of steps) {
          edited = times(n, kind, edited)
          await saveLoop(edited.loop, edited.history)
          const found = await loadLoop(quay.id)
          expect(found && names(found)).toEqual(names(edited))
        }
        const place = (await loops.getItem<{ history: { blocks: string[] } }>(quay.id))?.history
        expect((await histories.keys()).sort()).toEqual([...(place?.blocks ?? [])].sort())
      }),
      { numRuns: 40 },
    )
  })

  it('is written in its last states only, however long it is, and not at all for an undo', async () => {
    let edited = times(30, change, { loop: state(), history: { past: [], future: [] } })
    await saveLoop(edited.loop, edited.history)
    for (let i = 0; i < 60; i++) {
      edited = change(edited)
      const { loop, history } = edited
      expect(await statesWritten(() => saveLoop(loop, history))).toBeLessThanOrEqual(16)
    }
    for (const step of [undo, undo, redo]) {
      edited = step(edited)
      const { loop, history } = edited
      expect(await statesWritten(() => saveLoop(loop, history))).toBe(0)
      const found = await loadLoop(quay.id)
      expect(found && names(found)).toEqual(names(edited))
    }
  })

  it('is written whole where another tab has saved meanwhile', async () => {
    const mine = times(20, change, { loop: state(), history: { past: [], future: [] } })
    await saveLoop(mine.loop, mine.history)
    const record = await loops.getItem<object>(quay.id)
    await loops.setItem(quay.id, { ...record, revision: 'theirs', history: undefined })
    await histories.clear()
    const next = change(mine)
    expect(await statesWritten(() => saveLoop(next.loop, next.history))).toBe(22)
    const found = await loadLoop(quay.id)
    expect(found && names(found)).toEqual(names(next))
  })

  it('is still read where an older version has saved it in one piece', async () => {
    const edited = times(3, change, { loop: state(), history: { past: [], future: [] } })
    await localforage
      .createInstance({ name: 'cyclon', storeName: 'histories' })
      .setItem(historyKey(quay.id, 'r1'), edited.history)
    await loops.setItem(quay.id, { loop: edited.loop, savedAt: 1, media: [], revision: 'r1' })
    const found = await loadLoop(quay.id)
    expect(found && names(found)).toEqual(names(edited))
    await saveAt(change(edited).loop, change(edited).history, 'r1')
    expect(await histories.keys()).not.toContain(historyKey(quay.id, 'r1'))
  })

  it('does no harm where its record is damaged: the library is listed, and the loop opens', async () => {
    const edited = times(3, change, { loop: state(), history: { past: [], future: [] } })
    await saveLoop(edited.loop, edited.history)
    const record = await loops.getItem<object>(quay.id)
    for (const history of [
      {},
      { blocks: 7 },
      { blocks: ['nowhere'], skip: 0, past: 3, future: 0 },
      { blocks: [], skip: 0, past: 9, future: 9 },
    ]) {
      await loops.setItem(quay.id, { ...record, history })
      expect(await listLoops(async (all) => readAllStored(all))).toHaveLength(1)
      expect(await loadLoop(quay.id)).toMatchObject({ loop: edited.loop, history: { past: [], future: [] } })
    }
  })

  it('is none where a part of it is missing; the loop opens all the same', async () => {
    const edited = times(20, change, { loop: state(), history: { past: [], future: [] } })
    await saveLoop(edited.loop, edited.history)
    await histories.removeItem((await histories.keys())[0] as string)
    expect(await loadLoop(quay.id)).toMatchObject({ loop: edited.loop, history: { past: [], future: [] } })
  })
})
