import type { Loop } from '@/core/document'
import { alone } from './alone'
import { keepAssets } from './assets'
import type { QueueItem } from './queue-item'
import { storeOf } from './storage'

const queue = storeOf('queue')

const loopKey = (key: string) => `loop ${key}`
const fileKey = (id: string) => `file ${id}`
const itemKey = (id: string) => `item ${id}`
/** All files of a run in one list, as older versions kept them. */
const RUN = 'run'

/** A file of the run as it is stored: each by itself, so that tabs do not write over each other's. */
interface StoredItem {
  /** Files are written in this order. */
  readonly order: number
  readonly item: QueueItem
}
/** How far a file is, is not kept: one that is being written waits, should its page go away. */
const asStored = (order: number, item: QueueItem): StoredItem => ({
  order,
  item: { ...item, progress: null, state: item.state === 'writing' ? 'waiting' : item.state },
})

/** All that is stored of the run, in its order. */
async function storedItems(): Promise<StoredItem[]> {
  const found: StoredItem[] = []
  await queue.iterate<StoredItem, void>((stored, key) => {
    if (key.startsWith(itemKey(''))) found.push(stored)
  })
  return found.sort((a, b) => a.order - b.order)
}

/** Parts the list that an older version kept into its files; each is there before the list goes. */
const partOldRun = (): Promise<void> =>
  alone(async () => {
    const run = await queue.getItem<unknown>(RUN)
    if (!Array.isArray(run)) return
    for (const [order, item] of run.entries()) {
      const { id } = (item ?? {}) as Partial<QueueItem>
      if (typeof id === 'string') await queue.setItem(itemKey(id), asStored(order - run.length, item as QueueItem))
    }
    await queue.removeItem(RUN)
  })

/** The files of the run. What another version stored, and this one cannot read, is left out. */
export async function keptRun(): Promise<QueueItem[]> {
  if ((await queue.getItem<unknown>(RUN)) !== null) await partOldRun()
  const stored = await storedItems()
  if (stored.length === 0) return []
  const { itemSchema } = await import('./queue-schema')
  return stored.flatMap(({ order, item }): QueueItem[] => {
    const { success, data } = itemSchema.safeParse(asStored(order, item).item)
    return success ? [data as unknown as QueueItem] : []
  })
}

/** A loop as it was when it was put into the queue, and the ids of the assets that it is drawn from. */
interface QueuedLoop {
  readonly loop: Loop
  readonly assets: readonly string[]
}

/**
 * Adds files to the run, the loops that they are of first, by their keys.
 * @throws Error where the browser keeps nothing more; then none of them is there
 */
export const addToRun = (loops: ReadonlyMap<string, Loop>, items: readonly QueueItem[]): Promise<void> =>
  alone(async () => {
    const last = (await storedItems()).at(-1)?.order ?? 0
    const keys: string[] = []
    try {
      for (const [key, loop] of loops) {
        const assets = await keepAssets(loop.media)
        keys.push(loopKey(key))
        await queue.setItem(loopKey(key), { loop, assets } satisfies QueuedLoop)
      }
      for (const [i, item] of items.entries()) {
        keys.push(itemKey(item.id))
        await queue.setItem(itemKey(item.id), asStored(last + 1 + i, item))
      }
    } catch (error) {
      for (const key of keys.reverse()) await queue.removeItem(key).catch(() => {})
      throw error
    }
  })

/** Keeps what became of a file, and the file itself; neither where another tab has taken it out of the run. @returns whether it was still there */
export const keepDone = (item: QueueItem, file: StoredFile | null): Promise<boolean> =>
  alone(async () => {
    const stored = await queue.getItem<StoredItem>(itemKey(item.id))
    if (!stored) return false
    if (file) await queue.setItem(fileKey(item.id), file)
    await queue.setItem(itemKey(item.id), asStored(stored.order, item))
    return true
  })

/** Takes files out of the run, and lets go of what none of the others needs. */
export const removeFromRun = (ids: readonly string[]): Promise<void> =>
  alone(async () => {
    for (const id of ids) await queue.removeItem(itemKey(id))
    const used = new Set(
      (await storedItems()).flatMap(({ item }) => [itemKey(item.id), loopKey(item.loopKey), fileKey(item.id)]),
    )
    for (const key of await queue.keys()) if (!used.has(key)) await queue.removeItem(key)
  })

/** Ids of the assets that loops in the queue are drawn from. */
export async function queuedAssets(): Promise<string[]> {
  const ids: string[] = []
  await queue.iterate<Partial<QueuedLoop> | null, void>((kept, key) => {
    if (key.startsWith(loopKey('')) && Array.isArray(kept?.assets)) ids.push(...kept.assets)
  })
  return ids
}

/** The loop of a file in the queue; null where it is not there, or cannot be read. */
export async function queuedLoop(key: string): Promise<Loop | null> {
  const kept = await queue.getItem<Partial<QueuedLoop>>(loopKey(key))
  if (kept === null) return null
  const { LoopFileError, readProject } = await import('@/core/document')
  try {
    // Version 2 kept the document alone, and its files in it.
    return await readProject(kept.loop ?? kept)
  } catch (error) {
    if (error instanceof LoopFileError) return null
    throw error
  }
}

interface StoredFile {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly type: string
}
export async function keptFile(id: string): Promise<Blob | null> {
  const file = await queue.getItem<StoredFile>(fileKey(id))
  return file && new Blob([file.bytes], { type: file.type })
}
