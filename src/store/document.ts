import { temporal } from 'zundo'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'
import type { Loop } from '@/core/loop'

/** How many steps can be undone. */
export const UNDO_LIMIT = 300

interface DocumentState {
  /** The open loop; null before one is opened. */
  readonly loop: Loop | null
}
type Past = Pick<DocumentState, 'loop'>

/** The open document. Its only part is the loop; everything else about it is derived. */
export const documentStore = createStore<DocumentState>()(
  temporal(() => ({ loop: null as Loop | null }), {
    limit: UNDO_LIMIT,
    partialize: ({ loop }): Past => ({ loop }),
    equality: (a, b) => a.loop === b.loop,
  }),
)

const history = documentStore.temporal

/** The steps on both sides of the present: what undo and redo lead to. */
export interface History {
  readonly past: readonly Loop[]
  readonly future: readonly Loop[]
}

const loopsOf = (states: readonly Partial<Past>[]): Loop[] => states.flatMap(({ loop }) => loop ?? [])

export const currentHistory = (): History => ({
  past: loopsOf(history.getState().pastStates),
  future: loopsOf(history.getState().futureStates),
})

/** Opens a loop, with the steps that were undone and can be redone, or with none. */
export function openLoop(loop: Loop, { past, future }: History = { past: [], future: [] }): void {
  gestureStart = null
  history.getState().pause()
  documentStore.setState({ loop })
  history.setState({
    pastStates: past.map((each) => ({ loop: each })),
    futureStates: future.map((each) => ({ loop: each })),
  })
  history.getState().resume()
}

/** Changes the open loop by one undoable step, or as part of the gesture that is under way. */
export function changeLoop(change: (loop: Loop) => Loop): void {
  const { loop } = documentStore.getState()
  if (!loop) return
  const next = change(loop)
  if (next !== loop) documentStore.setState({ loop: next })
}

let gestureStart: Loop | null = null

/** Begins a gesture, such as a drag: all changes until endGesture are one step. */
export function beginGesture(): void {
  if (gestureStart) return
  gestureStart = documentStore.getState().loop
  history.getState().pause()
}

/** Ends a gesture; what it changed becomes one step. With `cancel` it is as if it had not been. */
export function endGesture(cancel = false): void {
  const start = gestureStart
  if (!start) return
  gestureStart = null
  const { loop } = documentStore.getState()
  if (cancel) documentStore.setState({ loop: start })
  else if (loop !== start)
    history.setState(({ pastStates }) => ({
      pastStates: [...pastStates, { loop: start }].slice(-UNDO_LIMIT),
      futureStates: [],
    }))
  history.getState().resume()
}

/** Undo and redo end a gesture that is under way: it is then a step like any other. */
export function undo(): void {
  endGesture()
  history.getState().undo()
}
export function redo(): void {
  endGesture()
  history.getState().redo()
}

export const useOpenLoop = (): Loop | null => useStore(documentStore, ({ loop }) => loop)
export const useHistoryLength = () => ({
  past: useStore(history, ({ pastStates }) => pastStates.length),
  future: useStore(history, ({ futureStates }) => futureStates.length),
})
