import localforage from 'localforage'
import type { Loop } from '@/core/document'
import { alone } from './alone'
import { keepAssets } from './assets'
import type { QueueItem } from './queue-item'

const queue = localforage.createInstance({ name: 'cyclon', storeName: 'queue' })

const RUN = 'run'
const loopKey = (key: string) => `loop ${key}`
const fileKey = (id: string) => `file ${id}`

/** The files of a run, without how far each of them is. */
export const keepRun = (items: readonly QueueItem[]): Promise<unknown> =>
  queue.setItem(
    RUN,
    items.map((item) => ({ ...item, progress: null })),
  )

/** The files of the run that was kept; what was being written waits again. What another version stored, and this one cannot read, is left out. */
export async function keptRun(): Promise<QueueItem[]> {
  const stored = await queue.getItem<unknown>(RUN)
  if (!Array.isArray(stored) || stored.length === 0) return []
  const { itemSchema } = await import('./queue-schema')
  const items = stored.flatMap((item): QueueItem[] => {
    const { success, data } = itemSchema.safeParse(item)
    return success ? [data as unknown as QueueItem] : []
  })
  return items.map((item) => (item.state === 'writing' ? { ...item, state: 'waiting' } : item))
}

/** A loop as it was when it was put into the queue, and the ids of the assets that it is drawn from. */
interface QueuedLoop {
  readonly loop: Loop
  readonly assets: readonly string[]
}

/** Keeps a loop as it is, its files first. */
export const keepQueued = (key: string, loop: Loop): Promise<unknown> =>
  alone(async () => {
    const assets = await keepAssets(loop.media)
    await queue.setItem(loopKey(key), { loop, assets } satisfies QueuedLoop)
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
export const keepFile = (id: string, file: StoredFile): Promise<unknown> => queue.setItem(fileKey(id), file)
export async function keptFile(id: string): Promise<Blob | null> {
  const file = await queue.getItem<StoredFile>(fileKey(id))
  return file && new Blob([file.bytes], { type: file.type })
}

/** Lets go of the loops and files that no file of the run needs. */
export async function tidyQueue(items: readonly QueueItem[]): Promise<void> {
  const used = new Set([RUN, ...items.flatMap(({ id, loopKey: key }) => [loopKey(key), fileKey(id)])])
  for (const key of await queue.keys()) if (!used.has(key)) await queue.removeItem(key)
}
