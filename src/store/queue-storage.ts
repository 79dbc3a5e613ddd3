import localforage from 'localforage'
import type { Loop } from '@/core/document'
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

/** A loop as it was when it was put into the queue, with its media. */
export const keepQueued = (key: string, loop: Loop): Promise<unknown> => queue.setItem(loopKey(key), loop)

/** The loop of a file in the queue; null where it is not there, or cannot be read. */
export async function queuedLoop(key: string): Promise<Loop | null> {
  const stored = await queue.getItem<unknown>(loopKey(key))
  if (stored === null) return null
  const { LoopFileError, readLoop } = await import('@/core/document')
  try {
    return readLoop(stored)
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
