import localforage from 'localforage'
import { expect, vi } from 'vitest'
import type { Loop } from '@/core/document'
import { makeVariant, NO_CHANGE, readAllStored } from '@/core/edit'
import { PLAIN_SETTINGS } from '@/core/output'
import { pierOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import { type Chain, chainOf, freshName, type Ledger, newName, type Told } from './ledger'

export const DESK_STORES = ['loops', 'histories', 'notes', 'assets', 'media', 'verdicts', 'queue', 'plans'] as const
export const store = (storeName: string) => localforage.createInstance({ name: 'cyclon', storeName })
const readHere = async (all: Parameters<typeof readAllStored>[0]) => readAllStored(all)

/** The modules of a page that has just been opened: all that it keeps in memory is its own. */
export async function openedPage() {
  vi.resetModules()
  const autosave = await import('../autosave')
  const document = await import('../document')
  const library = await import('../library')
  const deleted = await import('../library/deleted')
  const starts = await import('../library/own-starts')
  const plans = await import('../clip-plans')
  const queue = await import('../queue')
  const queued = await import('../queue-storage')
  const media = await import('@/core/media')
  const project = await import('@/codecs/project')
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
export type Page = Awaited<ReturnType<typeof openedPage>>
type Shown = Parameters<Page['deleteShown']>[0][number]

/** A page and its user. Each act returns false where there was nothing to do it on. */
export class Desk {
  /** The open loop's states, from a change until the page says that it is saved. */
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
  /** Enters the open loop into the ledger once the page says that it is saved. */
  private note() {
    const { loop, problem } = { loop: this.open, problem: this.page.useSaveState.getState().state }
    if (!loop || !this.dirty || problem !== 'saved' || this.dirty.id !== loop.id) return
    const chain = chainOf({ loop, history: this.page.currentHistory() })
    const before = this.ledger.loops.get(loop.id)
    // A save must hold every state that an earlier save held.
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

  /** Saves the open loop, as a page does before it opens another. */
  private async save() {
    await this.page.saveNow()
    this.note()
  }

  async make(): Promise<boolean> {
    await this.save()
    const picture = await this.page.madeAsset('image/png', new TextEncoder().encode(newName()))
    await this.page.openUnsaved({ ...quay, id: freshName('loop'), name: newName(), media: [pierOf({ file: picture })] })
    this.touch()
    this.note()
    return true
  }
  async edit(): Promise<boolean> {
    if (!this.open) return false
    this.page.changeLoop((loop) => ({ ...loop, name: newName() }))
    this.touch()
    await this.page.saveNow()
    this.note()
    return true
  }
  async openOne(pick: number): Promise<boolean> {
    const id = this.picked(pick)
    if (id === undefined) return false
    await this.save()
    const found = await this.page.openStored(id)
    // A loop that this page left unsaved is opened as it was left.
    const told = this.ledger.loops.get(id)?.chain.join()
    if (found && this.chain()?.join() !== told) this.touch()
    this.note()
    expect(found || this.ledger.loops.get(id)?.place !== 'library' || this.open?.id === id).toBe(true)
    return true
  }
  async endConflict(pick: number): Promise<boolean> {
    if (this.page.useSaveState.getState().state !== 'conflict') return false
    if (pick % 2 === 0) await this.page.keepAsCopy()
    else await this.page.takeStored()
    this.touch()
    this.note()
    return true
  }
  /** Moves a loop from one place to the other. */
  private async move(pick: number, from: 'library' | 'trash', to: 'library' | 'trash'): Promise<boolean> {
    const id = this.picked(pick, from)
    if (id === undefined) return false
    await this.page.trashLoop(id, to === 'trash')
    this.ledger.tells(id, this.ledger.loops.get(id)?.chain ?? [], to)
    return true
  }
  trash = (pick: number): Promise<boolean> => this.move(pick, 'library', 'trash')
  takeBack = (pick: number): Promise<boolean> => this.move(pick, 'trash', 'library')
  async lookIntoTrash(): Promise<boolean> {
    const entries = await this.page.listLoops(readHere, 'trash')
    this.inTrash = entries.map((entry) => ({ entry, version: this.ledger.loops.get(entry.id)?.version }))
    return true
  }
  async emptyTrash(): Promise<boolean> {
    if (this.inTrash.length === 0) await this.lookIntoTrash()
    const shown = this.inTrash
    this.inTrash = []
    if (shown.length === 0) return false
    try {
      await this.page.deleteShown(shown.map(({ entry }) => entry))
    } finally {
      const there = new Set(await store('loops').keys())
      for (const { entry, version } of shown) {
        const told = this.ledger.loops.get(entry.id)
        if (!told || there.has(entry.id)) continue
        // A loop may be deleted only in the version that the user saw.
        expect(told.version, `${entry.id} was deleted for good`).toBe(version)
        this.ledger.loops.delete(entry.id)
        this.ledger.deleted.push({ page: this.number, id: entry.id, told })
      }
    }
    return true
  }
  async putBack(): Promise<boolean> {
    const own = this.ledger.deleted.filter(({ page }) => page === this.number)
    if (own.length === 0) return false
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
    return true
  }
  async vary(pick: number): Promise<boolean> {
    const id = this.picked(pick, 'library')
    const found = id === undefined ? null : await this.page.loadLoop(id)
    if (!found) return false
    const variant = makeVariant(found.loop, newName(), { ...NO_CHANGE, phase: 0.5 }, freshName('loop'))
    await this.page.saveLoop(variant)
    this.ledger.tells(variant.id, [variant.name], 'library')
    return true
  }
  async openFile(pick: number): Promise<boolean> {
    const id = this.picked(pick, 'library')
    const found = id === undefined ? null : await this.page.loadLoop(id)
    if (!found) return false
    await this.save()
    const own = pick % 2 === 0 ? found.loop : { ...found.loop, name: newName() }
    await this.page.openFromFile(await this.page.unzipProject(await this.page.zipProject(own)))
    this.touch()
    this.note()
    return true
  }
  async look(): Promise<boolean> {
    await this.page.listLoops(readHere)
    return true
  }
  async queue(pick: number): Promise<boolean> {
    const loop = this.open
    if (!loop) return false
    const wanted = Array.from({ length: 1 + (pick % 2) }, () => ({ loop, settings: PLAIN_SETTINGS, name: newName() }))
    await this.page.enqueue(wanted)
    for (const { name } of wanted) this.ledger.queue.set(name, 'waiting')
    return true
  }
  async write(): Promise<boolean> {
    try {
      await this.page.startQueue()
    } catch (error) {
      if (!(error as Error).message.startsWith('Another tab is writing files')) throw error
    } finally {
      for (const { name, state } of this.page.useQueue.getState().items)
        if (state === 'done' && this.ledger.queue.has(name)) this.ledger.queue.set(name, 'done')
    }
    return true
  }
  async clear(): Promise<boolean> {
    const shown = this.page.useQueue.getState().items.map(({ name }) => name)
    if (shown.length === 0) return false
    // A removal that fails half-way may have removed some files already.
    for (const name of shown) this.ledger.queue.delete(name)
    await this.page.clearQueue()
    return true
  }
  async mend(pick: number): Promise<boolean> {
    const key = `file ${pick % 3}`
    const delayMs = 20 + Number(freshName('').slice(1))
    await this.page.keepMends(key, { mends: [{ kind: 'slower', delayMs }], undone: [] })
    this.ledger.mends.set(key, delayMs)
    return true
  }
  async begin(pick: number): Promise<boolean> {
    const id = this.picked(pick)
    if (id === undefined) return false
    this.ledger.starts = await this.page.setOwnStart(id, pick % 3 > 0)
    return true
  }
}

export type Act = Exclude<keyof Desk, 'page' | 'number' | 'ledger'>
/** The acts, with how often each is drawn against the others. */
export const ACTS: Readonly<Record<Act, number>> = {
  make: 2,
  edit: 14,
  openOne: 6,
  endConflict: 8,
  trash: 6,
  takeBack: 2,
  lookIntoTrash: 3,
  emptyTrash: 6,
  putBack: 10,
  vary: 2,
  openFile: 2,
  look: 2,
  queue: 2,
  write: 2,
  clear: 3,
  mend: 1,
  begin: 1,
}

/** The id of the stored loop whose latest state is the last of a chain. */
async function idHolding(chain: Chain): Promise<string | undefined> {
  for (const id of await store('loops').keys()) {
    const record = await store('loops').getItem<{ readonly loop: Loop }>(id)
    if (record?.loop.name === chain.at(-1)) return id
  }
  return undefined
}
