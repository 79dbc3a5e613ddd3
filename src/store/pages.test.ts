import 'fake-indexeddb/auto'
import fc from 'fast-check'
import localforage from 'localforage'
import { expect, it, vi } from 'vitest'
import type { Loop } from '@/core/document'
import { makeVariant, NO_CHANGE, readAllStored } from '@/core/edit'
import { PLAIN_SETTINGS } from '@/core/output'
import { Locks } from '@/core/testing/locks'
import { pierOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import type { QueueItem } from './queue-item'

/**
 * Several pages over one storage do in turn, and two at a time, what their users may do, while writes, reads and removals fail now and then. What any
 * of them was told is kept must be there afterwards, whatever the others did.
 */

vi.mock('@/workers/writing', () => ({
  writeTogether: (jobs: readonly unknown[]) => ({
    files: jobs.map(async () => ({
      bytes: new Uint8Array([1, 2, 3]),
      type: 'image/gif',
      width: 4,
      height: 3,
      frames: 2,
      note: null,
      proof: { holds: true, lines: [] },
    })),
    pause: () => {},
    resume: () => {},
    cancel: () => {},
  }),
}))
vi.stubGlobal('navigator', { userAgent: 'Node', locks: new Locks() })

const PAGES = 3
const STORES = ['loops', 'histories', 'notes', 'assets', 'media', 'verdicts', 'queue', 'plans'] as const
const store = (storeName: string) => localforage.createInstance({ name: 'cyclon', storeName })
const readHere = async (all: Parameters<typeof readAllStored>[0]) => readAllStored(all)

/** The modules of a page that has just been opened: all that it keeps in memory is its own. */
async function openedPage() {
  vi.resetModules()
  const [autosave, document, library, deleted, starts, plans, queue, queued, media, project] = [
    await import('./autosave'),
    await import('./document'),
    await import('./library'),
    await import('./library/deleted'),
    await import('./library/own-starts'),
    await import('./clip-plans'),
    await import('./queue'),
    await import('./queue-storage'),
    await import('@/core/media'),
    await import('@/codecs/project'),
  ]
  return {
    ...project,
    ...queued,
    ...autosave,
    ...document,
    ...library,
    ...deleted,
    ...starts,
    ...plans,
    ...queue,
    ...media,
  }
}
type Page = Awaited<ReturnType<typeof openedPage>>
type Shown = Parameters<Page['deleteShown']>[0][number]

/** The states of a loop, each called by a name that no other has: what an undo leads to, then itself. */
type Chain = readonly string[]
const chainOf = ({ loop, history }: { readonly loop: Loop; readonly history: { readonly past: readonly Loop[] } }) =>
  [...history.past, loop].map(({ name }) => name)

/** What somebody was told of a loop. */
interface Told {
  readonly chain: Chain
  readonly place: 'library' | 'trash'
  /** Counts what was told of it. */
  readonly version: number
}

/** What was told on all pages together. */
class Ledger {
  readonly loops = new Map<string, Told>()
  readonly deleted: { readonly page: number; readonly id: string; readonly told: Told }[] = []
  readonly queue = new Map<string, 'waiting' | 'done'>()
  readonly mends = new Map<string, number>()
  starts: readonly string[] = []
  steps = 0
  together = 0
  faults = 0
  tells(id: string, chain: Chain, place: Told['place']) {
    this.loops.set(id, { chain, place, version: (this.loops.get(id)?.version ?? 0) + 1 })
  }
}

let names = 0
const newName = () => `state ${names++}`

/** A page, what its user sees, and what they do. */
class Desk {
  /** What was changed on this page and not yet told to be saved. */
  private dirty: { readonly id: string; readonly chain: Chain } | null = null
  private inTrash: readonly { readonly entry: Shown; readonly version: number | undefined }[] = []

  constructor(
    readonly page: Page,
    readonly number: number,
    readonly ledger: Ledger,
  ) {}

  private get open(): Loop | null {
    return this.page.documentStore.getState().loop
  }
  private ids(place?: Told['place']): string[] {
    return [...this.ledger.loops].flatMap(([id, told]) => (place && told.place !== place ? [] : [id]))
  }
  private picked(pick: number, place?: Told['place']): string | undefined {
    const ids = this.ids(place)
    return ids[pick % Math.max(1, ids.length)]
  }
  /** What the page says of its open loop: where it is said to be saved, that is told. */
  private note() {
    const { loop, problem } = { loop: this.open, problem: this.page.useSaveState.getState().state }
    if (!loop || !this.dirty || problem !== 'saved' || this.dirty.id !== loop.id) return
    const chain = chainOf({ loop, history: this.page.currentHistory() })
    const before = this.ledger.loops.get(loop.id)
    // Nothing that was told before is written over by what does not know it.
    for (const name of before?.chain ?? []) expect(chain, `of ${loop.id}`).toContain(name)
    this.ledger.tells(loop.id, chain, 'library')
    this.dirty = null
  }
  private chain(): Chain | null {
    return this.open && chainOf({ loop: this.open, history: this.page.currentHistory() })
  }
  private touch() {
    const chain = this.chain()
    if (this.open && chain) this.dirty = { id: this.open.id, chain }
  }

  /** Whatever is opened, what was open before is saved first. */
  private async save() {
    await this.page.saveNow()
    this.note()
  }

  async make() {
    await this.save()
    const picture = await this.page.madeAsset('image/png', new TextEncoder().encode(newName()))
    await this.page.openUnsaved({ ...quay, id: `loop-${names++}`, name: newName(), media: [pierOf({ file: picture })] })
    this.touch()
    this.note()
  }
  async edit() {
    if (!this.open) return
    this.page.changeLoop((loop) => ({ ...loop, name: newName() }))
    this.touch()
    await this.page.saveNow()
    this.note()
  }
  async openOne(pick: number) {
    const id = this.picked(pick)
    if (id === undefined) return
    await this.save()
    const found = await this.page.openStored(id)
    // What was left here without being saved may be tried again.
    const told = this.ledger.loops.get(id)?.chain.join()
    if (found && this.chain()?.join() !== told) this.touch()
    this.note()
    expect(found || this.ledger.loops.get(id)?.place !== 'library' || this.open?.id === id).toBe(true)
  }
  async endConflict(pick: number) {
    if (this.page.useSaveState.getState().state !== 'conflict') return
    if (pick % 2 === 0) await this.page.keepAsCopy()
    else await this.page.takeStored()
    this.touch()
    this.note()
  }
  async trash(pick: number) {
    const id = this.picked(pick, 'library')
    if (id === undefined) return
    await this.page.trashLoop(id, true)
    this.ledger.tells(id, this.ledger.loops.get(id)?.chain ?? [], 'trash')
  }
  async takeBack(pick: number) {
    const id = this.picked(pick, 'trash')
    if (id === undefined) return
    await this.page.trashLoop(id, false)
    this.ledger.tells(id, this.ledger.loops.get(id)?.chain ?? [], 'library')
  }
  async lookIntoTrash() {
    const entries = await this.page.listLoops(readHere, 'trash')
    this.inTrash = entries.map((entry) => ({ entry, version: this.ledger.loops.get(entry.id)?.version }))
  }
  async emptyTrash() {
    const shown = this.inTrash
    try {
      await this.page.deleteShown(shown.map(({ entry }) => entry))
    } finally {
      const there = new Set(await store('loops').keys())
      for (const { entry, version } of shown) {
        const told = this.ledger.loops.get(entry.id)
        if (!told || there.has(entry.id)) continue
        // It may only be gone where nothing was told of it since it was shown.
        expect(told.version, `${entry.id} was deleted for good`).toBe(version)
        this.ledger.loops.delete(entry.id)
        this.ledger.deleted.push({ page: this.number, id: entry.id, told })
      }
    }
  }
  async putBack() {
    const own = this.ledger.deleted.filter(({ page }) => page === this.number)
    const left = () => this.page.useDeleted.getState().loops.length
    try {
      await this.page.putDeletedBack()
    } finally {
      const back = own.slice(0, own.length - left())
      for (const each of back) {
        this.ledger.deleted.splice(this.ledger.deleted.indexOf(each), 1)
        const id = await idHolding(each.told.chain)
        expect(id, `${each.told.chain} was put back`).toBeDefined()
        if (id) this.ledger.tells(id, each.told.chain, each.told.place)
      }
    }
  }
  async vary(pick: number) {
    const id = this.picked(pick, 'library')
    const found = id === undefined ? null : await this.page.loadLoop(id)
    if (!found) return
    const variant = makeVariant(found.loop, newName(), { ...NO_CHANGE, phase: 0.5 }, `loop-${names++}`)
    await this.page.saveLoop(variant)
    this.ledger.tells(variant.id, [variant.name], 'library')
  }
  async openFile(pick: number) {
    const id = this.picked(pick, 'library')
    const found = id === undefined ? null : await this.page.loadLoop(id)
    if (!found) return
    await this.save()
    const own = pick % 2 === 0 ? found.loop : { ...found.loop, name: newName() }
    await this.page.openFromFile(await this.page.unzipProject(await this.page.zipProject(own)))
    this.touch()
    this.note()
  }
  async look() {
    await this.page.listLoops(readHere)
  }
  async queue(pick: number) {
    const loop = this.open
    if (!loop) return
    const wanted = Array.from({ length: 1 + (pick % 2) }, () => ({ loop, settings: PLAIN_SETTINGS, name: newName() }))
    await this.page.enqueue(wanted)
    for (const { name } of wanted) this.ledger.queue.set(name, 'waiting')
  }
  async write() {
    try {
      await this.page.startQueue()
    } catch (error) {
      if (!(error as Error).message.startsWith('Another tab is writing files')) throw error
    } finally {
      for (const { name, state } of this.page.useQueue.getState().items)
        if (state === 'done' && this.ledger.queue.has(name)) this.ledger.queue.set(name, 'done')
    }
  }
  async clear() {
    const shown = this.page.useQueue.getState().items.map(({ name }) => name)
    // What fails half-way may have taken some of them.
    for (const name of shown) this.ledger.queue.delete(name)
    await this.page.clearQueue()
  }
  async mend(pick: number) {
    const [key, delayMs] = [`file ${pick % 3}`, 20 + names++]
    await this.page.keepMends(key, { mends: [{ kind: 'slower', delayMs }], undone: [] })
    this.ledger.mends.set(key, delayMs)
  }
  async begin(pick: number) {
    const id = this.picked(pick)
    if (id !== undefined) this.ledger.starts = await this.page.setOwnStart(id, pick % 3 > 0)
  }
}
type Act = Exclude<keyof Desk, 'page' | 'number' | 'ledger'>
const ACTS: Readonly<Record<Act, number>> = {
  make: 2,
  edit: 10,
  openOne: 6,
  endConflict: 3,
  trash: 4,
  takeBack: 2,
  lookIntoTrash: 3,
  emptyTrash: 3,
  putBack: 2,
  vary: 2,
  openFile: 2,
  look: 2,
  queue: 2,
  write: 2,
  clear: 1,
  mend: 1,
  begin: 1,
}

async function idHolding(chain: Chain): Promise<string | undefined> {
  const { loadLoop, trashLoop: _none, ...page } = await freshPage()
  for (const id of await store('loops').keys()) {
    const record = await store('loops').getItem<{ readonly loop: Loop }>(id)
    if (record?.loop.name === chain.at(-1)) return page.heldAs(id).then((held) => (held ? id : undefined))
  }
  return undefined
}

let fresh: Page | null = null
const freshPage = async (): Promise<Page> => {
  fresh ??= await openedPage()
  return fresh
}

/** The next operations on storage fail at the given one; none where that is 0. @returns whether it came to that */
function failing(at: number): () => boolean {
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

/** All that was told is there; after two things were done at once, in the library or the trash. */
async function check(ledger: Ledger, anyPlace = false): Promise<void> {
  const page = await freshPage()
  const kept = new Set(await store('assets').keys())
  for (const [id, { chain, place }] of ledger.loops) {
    const record = await store('loops').getItem<{ readonly deletedAt?: number }>(id)
    const is = record === null ? 'gone' : record.deletedAt === undefined ? 'library' : 'trash'
    if (is === 'trash') await store('loops').setItem(id, { ...record, deletedAt: undefined })
    const found = await page.loadLoop(id)
    if (is === 'trash') await store('loops').setItem(id, record)
    const states = found ? chainOf(found) : []
    // More than was told may be there: a save that had failed is tried again when something else is opened.
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

/** One thing that is done on a page, an operation on storage of which may fail. */
class Step implements fc.AsyncCommand<Ledger, readonly Desk[]> {
  constructor(
    readonly desk: number,
    readonly act: Act,
    readonly pick: number,
    readonly fault: number,
  ) {}
  check = () => true
  toString = () => `page ${this.desk}: ${this.act} ${this.pick}${this.fault ? `, operation ${this.fault} fails` : ''}`

  async run(ledger: Ledger, desks: readonly Desk[]): Promise<void> {
    const failed = failing(this.fault)
    try {
      await (desks[this.desk] as Desk)[this.act](this.pick)
    } catch (error) {
      mayFail(error as Error, failed())
    } finally {
      vi.restoreAllMocks()
    }
    ledger.steps++
    if (failed()) ledger.faults++
    await check(ledger)
  }
}

/** Two things that are done at once on two pages, in any order that the storage makes of it. */
class Together implements fc.AsyncCommand<Ledger, readonly Desk[]> {
  constructor(readonly steps: readonly [Step, Step]) {}
  check = () => this.steps[0].desk !== this.steps[1].desk
  toString = () => `at once (${this.steps.join('; ')})`

  async run(ledger: Ledger, desks: readonly Desk[]): Promise<void> {
    const failed = failing(this.steps[0].fault)
    const done = await Promise.allSettled(
      this.steps.map(({ desk, act, pick }) => (desks[desk] as Desk)[act](pick)),
    ).finally(() => vi.restoreAllMocks())
    for (const each of done) if (each.status === 'rejected') mayFail(each.reason, failed())
    ledger.steps += 2
    ledger.together++
    if (failed()) ledger.faults++
    // Which of them came last, storage knows.
    await check(ledger, true)
  }
}

/** Lets an error pass that a user is told; what a law says of it is none. */
function mayFail(error: Error, failed: boolean): void {
  const isTold = failed ? error.name !== 'AssertionError' : ['GoneError', 'ConflictError'].includes(error.name)
  if (!isTold) throw error
}

const weighted = Object.entries(ACTS).map(([act, weight]) => ({ weight, arbitrary: fc.constant(act as Act) }))
const step = fc
  .record({
    desk: fc.nat(PAGES - 1),
    act: fc.oneof(...weighted),
    pick: fc.nat(5),
    fault: fc.oneof(
      { weight: 2, arbitrary: fc.constant(0) },
      { weight: 1, arbitrary: fc.integer({ min: 1, max: 12 }) },
    ),
  })
  .map(({ desk, act, pick, fault }) => new Step(desk, act, pick, fault))
const together = fc.tuple(step, step).map((steps) => new Together(steps))

it('what a page was told is kept is there, whatever other pages do and whatever fails', async () => {
  const pages = [await openedPage(), await openedPage(), await openedPage()]
  await freshPage()
  const totals = { runs: 0, steps: 0, together: 0, faults: 0 }
  await fc.assert(
    fc.asyncProperty(fc.commands([step, step, together], { maxCommands: 60, size: 'max' }), async (commands) => {
      for (const name of STORES) await store(name).clear()
      const ledger = new Ledger()
      const desks = pages.map((page, n) => new Desk(page, n, ledger))
      for (const page of pages) {
        page.useDeleted.setState({ loops: [] })
        page.useQueue.setState({ items: [], state: 'idle' })
        page.useSaveState.setState({ state: 'saved', problem: null })
        page.openLoop({ ...quay, id: `elsewhere-${names++}` })
        await page.openUnsaved({ ...quay, id: `begun-${names++}`, name: newName() })
      }
      await fc.asyncModelRun(() => ({ model: ledger, real: desks }), commands)
      totals.runs++
      totals.steps += ledger.steps
      totals.together += ledger.together
      totals.faults += ledger.faults
    }),
    { numRuns: Number(process.env.CYCLON_RUNS ?? 30), endOnFailure: true },
  )
  process.stdout.write(
    `${totals.runs} runs, ${totals.steps} steps (${2 * totals.together} of them two at a time), ${totals.faults} faults\n`,
  )
  expect(totals.steps).toBeGreaterThan(500)
  expect(totals.faults).toBeGreaterThan(60)
})
