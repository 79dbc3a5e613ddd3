import { create } from 'zustand'
import { type Loop, MAX_NAME, withFaces } from '@/core/document'
import { newId } from '@/core/id'
import { currentHistory, documentStore, type History, openLoop } from './document'
import {
  ConflictError,
  heldAs,
  loadLoop,
  revisionOf,
  StorageError,
  type StoredLoop,
  saveLoop,
  trashLoop,
} from './library'
import { openInWorkspace } from './session'

/** Whether the open loop is safe: `saving` also while a change waits its turn, `conflict` when another tab changed it. */
export const useSaveState = create<{
  readonly state: 'saved' | 'saving' | 'failed' | 'conflict'
  readonly problem: string | null
}>()(() => ({ state: 'saved', problem: null }))

/** A pause in the changes after which they are saved, ms. */
const QUIET_MS = 250

/** The stored state of the open loop, as far as this tab knows. */
interface Saved {
  /** null before it has been saved at all. */
  readonly revision: string | null
  readonly loop: Loop | null
  readonly history: History | null
}
const NOTHING: Saved = { revision: null, loop: null, history: null }

let saved: Saved = NOTHING

/** A loop that was left while it could not be saved: it is kept in memory, and opened from there. */
interface Left {
  readonly loop: Loop
  readonly history: History
  readonly saved: Saved
  readonly problem: ReturnType<typeof useSaveState.getState>
}
const left = new Map<string, Left>()

let timer: ReturnType<typeof setTimeout> | undefined
let running: Promise<void> = Promise.resolve()

const sameHistory = (a: History, b: History): boolean =>
  (['past', 'future'] as const).every(
    (side) => a[side].length === b[side].length && a[side].at(-1) === b[side].at(-1) && a[side][0] === b[side][0],
  )

async function save() {
  const { loop } = documentStore.getState()
  const history = currentHistory()
  if (!loop || useSaveState.getState().state === 'conflict') return
  if (loop === saved.loop && saved.history && sameHistory(history, saved.history)) {
    useSaveState.setState({ state: 'saved', problem: null })
    return
  }
  try {
    const revision = await saveLoop(loop, history, saved.revision)
    saved = { revision, loop, history }
    const current = documentStore.getState().loop === loop
    useSaveState.setState({ state: current ? 'saved' : 'saving', problem: null })
  } catch (error) {
    const state = error instanceof ConflictError ? 'conflict' : 'failed'
    useSaveState.setState({ state, problem: (error as Error).message })
  }
}

/** Saves now what has not been saved yet; resolves when it is. */
export function saveNow(): Promise<void> {
  clearTimeout(timer)
  running = running.then(save)
  return running
}

/** Keeps what is open and could not be saved, before something else is opened. */
function leave() {
  const { loop } = documentStore.getState()
  const problem = useSaveState.getState()
  if (loop && (problem.state === 'failed' || problem.state === 'conflict'))
    left.set(loop.id, { loop, history: currentHistory(), saved, problem })
}

/** Opens a loop that was left here without being saved, and tries that again. @returns false for none */
async function openLeft(id: string): Promise<boolean> {
  const kept = left.get(id)
  if (!kept) return false
  leave()
  left.delete(id)
  openInWorkspace(kept.loop, kept.history)
  saved = kept.saved
  useSaveState.setState(kept.problem)
  await saveNow()
  return true
}

function open(loop: Loop, found: StoredLoop | null) {
  leave()
  left.delete(loop.id)
  saved = found ? { ...found, history: null } : NOTHING
  useSaveState.setState({ state: 'saved', problem: null })
  openInWorkspace(loop, found?.history)
  saved = { ...saved, history: found ? currentHistory() : null }
}

/** Opens a loop that the library may not hold yet, and saves it; where that fails, it is worked on in memory. */
export async function openUnsaved(loop: Loop): Promise<void> {
  await saveNow()
  open(await withFaces(loop), null)
  await saveNow()
}

/**
 * Opens a loop of the library, unless it is open here already in its latest state; one that was left here without being saved as it was left.
 * @returns false when the library has no such loop. @throws StorageError, LoopFileError
 */
export async function openStored(id: string): Promise<boolean> {
  await saveNow()
  const isOpen = documentStore.getState().loop?.id === id
  const revision = await revisionOf(id)
  if (isOpen && (revision === saved.revision || useSaveState.getState().state !== 'saved')) return true
  if (await openLeft(id)) return true
  const found = revision === null ? null : await loadLoop(id)
  if (found) open(found.loop, found)
  return found !== null
}

/**
 * The loop under an id that no other state of it has, in the library, its trash or in memory; one that lies in the trash in this very state is taken out.
 * @throws StorageError
 */
export async function besideOthers(loop: Loop): Promise<Loop> {
  const own = JSON.stringify(loop)
  const differs = (other: Loop | null) => other === null || JSON.stringify(other) !== own
  const open = documentStore.getState().loop
  const held = await heldAs(loop.id)
  if ((open?.id === loop.id && differs(open)) || left.has(loop.id) || (held && differs(held.loop)))
    return { ...loop, id: newId() }
  if (held?.trashed) await trashLoop(loop.id, false)
  return loop
}

/** Opens a loop that came from a file; one that the library holds in this very state keeps its history. */
export async function openFromFile(loop: Loop): Promise<Loop> {
  try {
    const kept = await besideOthers(loop)
    if (!(await openStored(kept.id))) await openUnsaved(kept)
    return kept
  } catch (error) {
    if (!(error instanceof StorageError)) throw error
    // The unreadable record may hold more than the file: nothing is written under its id.
    const beside = { ...loop, id: newId() }
    await openUnsaved(beside)
    return beside
  }
}

/** Ends a conflict: what is open here goes on as a loop of its own, with its history. Returns its id. */
export async function keepAsCopy(): Promise<string | null> {
  const { loop } = documentStore.getState()
  if (!loop) return null
  const id = newId()
  const { past, future } = currentHistory()
  const copy = (each: Loop): Loop => ({ ...each, id })
  saved = NOTHING
  useSaveState.setState({ state: 'saving', problem: null })
  openLoop(
    { ...copy(loop), name: `${loop.name.slice(0, MAX_NAME - 7)} (copy)` },
    { past: past.map(copy), future: future.map(copy) },
  )
  await saveNow()
  return id
}

/** Ends a conflict: what the other tab saved is opened, out of the trash where it lies there; what was open here is one step of undo away. */
export async function takeStored(): Promise<void> {
  const { loop } = documentStore.getState()
  if (!loop) return
  const held = await heldAs(loop.id)
  if (held?.trashed) await trashLoop(loop.id, false)
  const found = await loadLoop(loop.id)
  if (!found) return
  saved = { ...found, history: null }
  useSaveState.setState({ state: 'saved', problem: null })
  openLoop(found.loop, { past: [...found.history.past, loop], future: [] })
  await saveNow()
}

/**
 * Saves the open loop a moment after each change, and when the page is left; warns before a page is left whose loop could
 * not be saved. Returns a function that stops it.
 */
export function startAutosave(): () => void {
  let changedAt = -Infinity
  const stop = documentStore.subscribe(({ loop }, before) => {
    if (loop === before.loop || loop?.id !== before.loop?.id) return
    if (useSaveState.getState().state !== 'conflict') useSaveState.setState({ state: 'saving' })
    clearTimeout(timer)
    // The first change after a pause is saved at once, so that a page may be closed right after it.
    timer = setTimeout(saveNow, performance.now() - changedAt > QUIET_MS ? 0 : QUIET_MS)
    changedAt = performance.now()
  })
  const onHidden = () => {
    if (document.visibilityState === 'hidden') void saveNow()
  }
  const onUnload = (event: BeforeUnloadEvent) => {
    const { state } = useSaveState.getState()
    if (state === 'failed' || state === 'conflict' || left.size > 0) event.preventDefault()
  }
  document.addEventListener('visibilitychange', onHidden)
  window.addEventListener('beforeunload', onUnload)
  return () => {
    stop()
    document.removeEventListener('visibilitychange', onHidden)
    window.removeEventListener('beforeunload', onUnload)
    void saveNow()
  }
}
