import { create } from 'zustand'
import { currentHistory, documentStore } from './document'
import { saveLoop } from './library'

/** Whether the open loop is safe: `saving` also while a change waits its turn. */
export const useSaveState = create<{
  readonly state: 'saved' | 'saving' | 'failed'
  readonly problem: string | null
}>()(() => ({ state: 'saved', problem: null }))

/** A pause in the changes after which they are saved, ms. */
const QUIET_MS = 250

let timer: ReturnType<typeof setTimeout> | undefined
let running: Promise<void> = Promise.resolve()

async function save() {
  const { loop } = documentStore.getState()
  if (!loop) return
  try {
    await saveLoop(loop, currentHistory())
    const current = documentStore.getState().loop === loop
    useSaveState.setState({ state: current ? 'saved' : 'saving', problem: null })
  } catch (error) {
    useSaveState.setState({ state: 'failed', problem: (error as Error).message })
  }
}

/** Saves now what has not been saved yet; resolves when it is. */
export function saveNow(): Promise<void> {
  clearTimeout(timer)
  running = running.then(save)
  return running
}

/** Saves the open loop a moment after each change, and when the page is left. Returns a function that stops it. */
export function startAutosave(): () => void {
  const stop = documentStore.subscribe(({ loop }, before) => {
    if (loop === before.loop || loop?.id !== before.loop?.id) return
    useSaveState.setState({ state: 'saving' })
    clearTimeout(timer)
    timer = setTimeout(saveNow, QUIET_MS)
  })
  const onLeave = () => {
    if (document.visibilityState === 'hidden') void saveNow()
  }
  document.addEventListener('visibilitychange', onLeave)
  return () => {
    stop()
    document.removeEventListener('visibilitychange', onLeave)
    void saveNow()
  }
}
