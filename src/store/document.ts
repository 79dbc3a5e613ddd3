import { temporal } from 'zundo'
import { useStore } from 'zustand'
import { createStore } from 'zustand/vanilla'
import { hasItsFaces, type Loop, unopenable, withFaces } from '@/core/document'
import { innerView, partVariant, withInner } from '@/core/edit'
import { tellTrouble } from './trouble'

/** How many steps can be undone. */
export const UNDO_LIMIT = 300

interface DocumentState {
  /** The open loop; null before one is opened. */
  readonly loop: Loop | null
  /** The loop placed in it that is being worked on; null for itself. */
  readonly inside: string | null
}
type Past = Pick<DocumentState, 'loop'>

/** The open document, and which of its loops is worked on; everything else about it is derived. */
export const documentStore = createStore<DocumentState>()(
  temporal((): DocumentState => ({ loop: null, inside: null }), {
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
  documentStore.setState({ loop, inside: null })
  history.setState({
    pastStates: past.map((each) => ({ loop: each })),
    futureStates: future.map((each) => ({ loop: each })),
  })
  history.getState().resume()
}

const views = new WeakMap<Loop, Map<string, Loop>>()

/** The loop that is worked on as it was before the last step; null where there was none. */
export function lastStep(): Loop | null {
  const { inside } = documentStore.getState()
  const before = history.getState().pastStates.at(-1)?.loop
  return before ? viewOf({ loop: before, inside }) : null
}

/** The loop that is worked on: the document, or the one placed in it that was opened. The same object as long as nothing changes. */
function viewOf({ loop, inside }: DocumentState): Loop | null {
  if (!loop || inside === null) return loop
  const known = views.get(loop) ?? new Map<string, Loop>()
  views.set(loop, known)
  const view = known.get(inside) ?? innerView(loop, inside)
  if (view) known.set(inside, view)
  return view ?? loop
}

export const currentLoop = (): Loop | null => viewOf(documentStore.getState())

/**
 * Changes the loop that is worked on by one undoable step, or as part of the gesture that is under way. A variant that is
 * changed by hand no longer follows its source.
 * @returns whether the loop is now what was asked for; where it is not, it has been said why
 */
export function changeLoop(change: (loop: Loop) => Loop): boolean {
  const { loop, inside } = documentStore.getState()
  const view = currentLoop()
  if (!loop || !view) return false
  const next = change(view)
  if (next === view) return true
  // Text that can be set a moment later is.
  if (!hasItsFaces(next)) {
    withFaces(next).then(
      () => changeLoop(change),
      (error) => tellTrouble('That was not done: the outlines of a face could not be fetched.', error),
    )
    return true
  }
  const whole = inside !== null && next.id === inside ? withInner(loop, next) : next
  return take(whole.variantOf && whole.variantOf === loop.variantOf ? partVariant(whole) : whole)
}

/** Takes a state of the document, unless it is one that could not be saved and opened again: then it is said why, and all stays as it was. */
function take(loop: Loop): boolean {
  const problem = unopenable(loop)
  if (problem === null) documentStore.setState({ loop })
  else tellTrouble('That was not done: the loop could not be opened again afterwards.', new Error(`${problem}.`))
  return problem === null
}

/** Changes the document itself, whichever of its loops is worked on; a variant goes on following its source. */
export function changeDocument(change: (loop: Loop) => Loop): void {
  const { loop } = documentStore.getState()
  if (!loop) return
  const next = change(loop)
  if (next !== loop) take(next)
}

/** Opens a loop that is placed in the document to be worked on; null goes back to the document itself. */
export const goInside = (id: string | null): void => documentStore.setState({ inside: id })

let gestureStart: Loop | null = null
/** Whether what is dragged lies over the picture, so that nothing may lag behind it. */
let gestureIsLive = false

/** While something else is dragged, panels are updated at most this often, ms. */
export const PANEL_INTERVAL_MS = 125
/** An update cheaper than this is done at every step of a drag, ms. */
const CHEAP_MS = 10
/** A costlier update is followed by a pause this many times its duration. */
const PAUSE_RATIO = 3

const due = new Set<() => void>()
let pacing: ReturnType<typeof setTimeout> | undefined
let pacedAt = 0
/** How long it took last time, with what the page did because of it, ms. */
let cost = 0
let measuring = false

const pace = () => (cost < CHEAP_MS ? 0 : Math.min(PANEL_INTERVAL_MS, PAUSE_RATIO * cost))

function run(works: readonly (() => void)[]) {
  pacedAt = performance.now()
  for (const work of works) work()
  if (!gestureStart || gestureIsLive || measuring) return
  measuring = true
  const start = pacedAt
  // The page draws itself anew before this comes round.
  setTimeout(() => {
    measuring = false
    cost = performance.now() - start
  })
}

function runDue() {
  clearTimeout(pacing)
  pacing = undefined
  const now = [...due]
  due.clear()
  run(now)
}

/**
 * Work that is done at once; but where it is dear, in the middle of a drag only now and then, all of it together, and
 * once more at its end: a drag keeps the pace of the display however much there is to be drawn anew. Returns what is to
 * be called, and what stops it.
 */
export function pacedUpdate(work: () => void): { call: () => void; stop: () => void } {
  return {
    call: () => {
      const wait = gestureStart && !gestureIsLive ? pacedAt + pace() - performance.now() : 0
      if (wait <= 0 && pacing === undefined) return run([work])
      due.add(work)
      pacing ??= setTimeout(runDue, Math.max(0, wait))
    },
    stop: () => void due.delete(work),
  }
}

/**
 * Begins a gesture, such as a drag: all changes until endGesture are one step. With `live` all that is shown follows every
 * one of them at once.
 */
export function beginGesture(live = false): void {
  const { loop } = documentStore.getState()
  if (gestureStart || !loop) return
  gestureIsLive = live
  pacedAt = -Infinity
  gestureStart = loop
  history.getState().pause()
}

/**
 * Ends a gesture; what it changed becomes one step. With `cancel` it is as if it had not been.
 * @returns whether it had changed the document
 */
export function endGesture(cancel = false): boolean {
  const start = gestureStart
  if (!start) return false
  gestureStart = null
  const { loop } = documentStore.getState()
  if (cancel) documentStore.setState({ loop: start })
  else if (loop !== start)
    history.setState(({ pastStates }) => ({
      pastStates: [...pastStates, { loop: start }].slice(-UNDO_LIMIT),
      futureStates: [],
    }))
  history.getState().resume()
  runDue()
  return loop !== start
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

/** The document as panels show it: the same, at its own pace during a drag. */
const shown = createStore<DocumentState>()(() => documentStore.getState())
documentStore.subscribe(pacedUpdate(() => shown.setState(documentStore.getState())).call)

/** The loop that is worked on. */
export const useOpenLoop = (): Loop | null => useStore(shown, viewOf)
/** A part of the loop that is worked on; null while none is open. */
export const useOpenPart = <T>(part: (loop: Loop) => T): T | null =>
  useStore(shown, (state) => {
    const loop = viewOf(state)
    return loop && part(loop)
  })
/** The document itself, whichever of its loops is worked on. */
export const useDocument = (): Loop | null => useStore(shown, ({ loop }) => loop)
/** A part of the document; a component that uses it is drawn anew only when that changes. Null while none is open. */
export const useDocumentPart = <T>(part: (loop: Loop) => T): T | null =>
  useStore(shown, ({ loop }) => (loop ? part(loop) : null))
export const useInside = (): string | null => useStore(shown, ({ inside }) => inside)

const NO_COLOURS: Loop['palette'] = []
/** The named colours of the document. */
export const usePalette = (): Loop['palette'] => useStore(shown, ({ loop }) => loop?.palette ?? NO_COLOURS)

export const useHistoryLength = () => ({
  past: useStore(history, ({ pastStates }) => pastStates.length),
  future: useStore(history, ({ futureStates }) => futureStates.length),
})
