import { create } from 'zustand'
import type { Proof } from '@/codecs'
import type { Loop } from '@/core/document'
import { newId } from '@/core/id'
import type { FileSettings } from '@/core/output'
import type { ExportedFile } from '@/workers/inside/export.worker'
import type { FileJob } from '@/workers/page/file-job'
import type { Writing } from '@/workers/page/writing'
import type { QueueItem } from './queue-item'
import { addToRun, keepDone, keptFile, keptRun, queuedLoop, removeFromRun } from './queue-storage'
import { tabs } from './tabs'

export type { QueueItem, QueueResult } from './queue-item'

interface QueueState {
  readonly items: readonly QueueItem[]
  readonly state: 'idle' | 'running' | 'paused'
  /** When the run began, and how much of it was done then, for the time that is left. */
  readonly since: { readonly at: number; readonly share: number } | null
  /** Whether a run was found that a page left unfinished. */
  readonly interrupted: boolean
}

/** At most this many files are written together from the same frames. */
const TOGETHER = 6

export const useQueue = create<QueueState>()(() => ({ items: [], state: 'idle', since: null, interrupted: false }))
const { getState, setState } = useQueue

let writing: Writing | null = null
const loops = new Map<string, Loop>()

const change = (id: string, part: Partial<QueueItem>) =>
  setState(({ items }) => ({ items: items.map((item) => (item.id === id ? { ...item, ...part } : item)) }))

/** How much of the run is done, 0 … 1. */
export const shareDone = (items: readonly QueueItem[]): number =>
  items.reduce(
    (sum, { state, progress }) => sum + (state === 'done' || state === 'failed' ? 1 : (progress?.share ?? 0)),
    0,
  ) / Math.max(1, items.length)

/** Seconds left at the pace until now; null while that is unknown. */
export function secondsLeft({ items, since }: Pick<QueueState, 'items' | 'since'>, now: number): number | null {
  const done = shareDone(items)
  if (!since || done - since.share < 0.02) return null
  return (((now - since.at) / (done - since.share)) * (1 - done)) / 1000
}

/** Held by the tab that writes, as long as it does; browsers let go of it with the tab. */
const LOCK = 'cyclon queue'
const BUSY = 'Another tab is writing files; it goes on with all that wait.'
const hasLocks = () => typeof navigator !== 'undefined' && navigator.locks !== undefined

/** Whether another tab is writing files just now. */
async function busyElsewhere(): Promise<boolean> {
  if (getState().state !== 'idle' || !hasLocks()) return false
  const { held = [] } = await navigator.locks.query()
  return held.some(({ name }) => name === LOCK)
}

/** Runs something while no other tab writes. @throws Error where one does */
async function alone<T>(work: () => Promise<T>): Promise<T> {
  if (!hasLocks()) return work()
  return navigator.locks.request(LOCK, { ifAvailable: true }, (lock) => {
    if (!lock) throw new Error(BUSY)
    return work()
  })
}

const others = tabs('cyclon queue')
/** Files that failed where not even that could be kept: they are not tried again by this page. */
const unkept = new Map<string, QueueItem>()

/** Shows the run as it is stored, but for what is being written here. */
async function refresh(): Promise<void> {
  const stored = await keptRun()
  setState(({ items }) => {
    const writing = new Map(items.flatMap((item) => (item.state === 'writing' ? [[item.id, item] as const] : [])))
    return { items: stored.map((item) => writing.get(item.id) ?? unkept.get(item.id) ?? item) }
  })
}

/** Brings the run that is stored, whichever page put files into it, and follows it from then on. */
let asked: Promise<void> | null = null
export const recallQueue = (): Promise<void> => {
  asked ??= (async () => {
    others.hear(() => void refresh().catch(() => {}))
    await refresh().catch(() => {})
    const waits = getState().items.some(({ state }) => state === 'waiting')
    setState({ interrupted: waits && !(await busyElsewhere()) })
  })()
  return asked
}

/** A file that is to be written: of a loop as it is now. */
export interface QueuedFile {
  readonly loop: Loop
  readonly settings: FileSettings
  readonly name: string
}

/** Puts files into the queue, with their loops as they are now. @throws Error where the browser keeps nothing more; then none of them is there */
export async function enqueue(wanted: readonly QueuedFile[]): Promise<void> {
  await recallQueue()
  const keys = new Map<Loop, string>()
  for (const { loop } of wanted) if (!keys.has(loop)) keys.set(loop, newId())
  const items = wanted.map(
    ({ loop, settings, name }): QueueItem => ({
      id: newId(),
      loopKey: keys.get(loop) as string,
      loopName: loop.name,
      settings,
      name,
      state: 'waiting',
      progress: null,
      problem: null,
      result: null,
    }),
  )
  await addToRun(new Map([...keys].map(([loop, key]) => [key, loop])), items)
  for (const [loop, key] of keys) loops.set(key, loop)
  await refresh()
  others.tell()
}

async function loopOf(item: QueueItem): Promise<Loop | null> {
  const known = loops.get(item.loopKey) ?? (await queuedLoop(item.loopKey))
  if (known) loops.set(item.loopKey, known)
  return known
}

/** The files that wait and can be written from the frames of the first of them. */
async function nextGroup(): Promise<{ items: QueueItem[]; jobs: FileJob[] } | null> {
  // Other tabs may have put files in, or taken some out.
  await refresh()
  const waiting = getState().items.filter(({ state }) => state === 'waiting')
  const [first] = waiting
  if (!first) return null
  const loop = await loopOf(first)
  if (!loop) {
    const problem = 'Its loop is no longer in this browser. Open the loop and put the file into the queue again.'
    await settle({ ...first, state: 'failed', problem }, null)
    return nextGroup()
  }
  const { sameFrames } = await import('@/workers/page/file-job')
  const jobOf = ({ settings, name }: QueueItem): FileJob => ({ loop, settings, name })
  const items = waiting
    .filter((item) => item.loopKey === first.loopKey && sameFrames(jobOf(first), jobOf(item)))
    .slice(0, TOGETHER)
  return { items, jobs: items.map(jobOf) }
}

const failures = ({ lines }: Proof): string =>
  lines
    .filter(({ holds }) => !holds)
    .map(({ what, expected, found }) => `${what}: ${found} in place of ${expected}`)
    .join('; ')

/** Keeps what became of a file, and shows it. */
async function settle(item: QueueItem, file: Parameters<typeof keepDone>[1]): Promise<void> {
  if (!(await keepDone(item, file))) setState(({ items }) => ({ items: items.filter(({ id }) => id !== item.id) }))
  else change(item.id, item)
  others.tell()
}

async function finish(item: QueueItem, loop: Loop, file: Promise<ExportedFile>): Promise<void> {
  try {
    const { bytes, ...result } = await file
    const problem = result.proof.holds ? null : failures(result.proof)
    const seconds = (loop.length * loop.rate.den * item.settings.repeats) / loop.rate.num
    const done = { ...item, result: { ...result, size: bytes.length, seconds }, problem, progress: null }
    await settle({ ...done, state: problem ? 'failed' : 'done' }, { bytes, type: result.type })
  } catch (error) {
    // A stopped file waits again.
    if (!getState().items.some(({ id, state }) => id === item.id && state === 'writing')) return
    const failed = { ...item, state: 'failed', problem: (error as Error).message, progress: null } as const
    await settle(failed, null).catch(() => {
      unkept.set(item.id, failed)
      change(item.id, failed)
    })
  }
}

/** Writes what waits, group by group, until nothing does or it is stopped. @throws Error where another tab writes */
export async function startQueue(): Promise<void> {
  const { state, items } = getState()
  if (state === 'paused') {
    writing?.resume()
    setState({ state: 'running', since: { at: performance.now(), share: shareDone(items) } })
    return
  }
  if (state === 'running') return
  setState({ state: 'running', interrupted: false, since: { at: performance.now(), share: shareDone(items) } })
  try {
    await alone(writeWaiting)
  } finally {
    writing = null
    setState({ state: 'idle', since: null })
  }
}

async function writeWaiting(): Promise<void> {
  const { writeTogether } = await import('@/workers/page/writing')
  while (getState().state !== 'idle') {
    const group = await nextGroup()
    if (!group || getState().state === 'idle') break
    for (const { id } of group.items) change(id, { state: 'writing' })
    const own = writeTogether(group.jobs, (i, progress) => {
      const item = group.items[i] as QueueItem
      if (getState().items.some(({ id, state: now }) => id === item.id && now === 'writing'))
        change(item.id, { progress })
    })
    writing = own
    if (getState().state === 'paused') own.pause()
    const all = Promise.all(
      own.files.map((file, i) => finish(group.items[i] as QueueItem, group.jobs[i]?.loop as Loop, file)),
    )
    await Promise.race([all, stopped()])
  }
}

let stop = () => {}
const stopped = () =>
  new Promise<void>((resolve) => {
    stop = resolve
  })

/** Stops the file being written at its next frame, and continues from there later. */
export function pauseQueue(): void {
  if (getState().state !== 'running') return
  writing?.pause()
  setState({ state: 'paused', since: null })
}

/** Ends the run; what was being written leaves nothing behind, and waits again. */
export function stopQueue(): void {
  writing?.cancel()
  writing = null
  setState(({ items }) => ({
    state: 'idle',
    since: null,
    items: items.map((item) => (item.state === 'writing' ? { ...item, state: 'waiting', progress: null } : item)),
  }))
  stop()
}

/** Takes files out of the queue: one, or all that are shown. @throws Error where storage cannot be used */
export async function clearQueue(id?: string): Promise<void> {
  if (!id) stopQueue()
  const gone = id ? [id] : getState().items.map((item) => item.id)
  await removeFromRun(gone)
  setState(({ items }) => ({ items: items.filter((item) => !gone.includes(item.id)), interrupted: false }))
  others.tell()
}

/** A file that has been written, as it lies in this browser. */
export const queuedFile = (item: QueueItem): Promise<Blob | null> => keptFile(item.id)
