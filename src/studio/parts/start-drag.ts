import { beginGesture, endGesture } from '@/store/document'

/** A drag from the press on; its changes of the document are one step of its history. */
export interface Drag {
  readonly onMove: (event: PointerEvent) => void
  /** Told at its end, whichever way that comes; `cancelled` where the document is as if it had not been, and whether it had changed it. */
  readonly onEnd?: (cancelled: boolean, changed: boolean) => void
  /** Whether what is dragged lies over the picture, so that nothing may lag behind it. */
  readonly live?: boolean
}

/**
 * Follows the pointer from a press until it is let go: one step to undo. Esc, and a pointer that the system takes away, take
 * it back; it ends even where the element that was pressed has gone meanwhile.
 */
export function startDrag(event: React.PointerEvent, { onMove, onEnd, live = false }: Drag): void {
  const { pointerId, currentTarget } = event
  event.stopPropagation()
  try {
    currentTarget.setPointerCapture(pointerId)
  } catch {
    // The pointer was let go before this came round: its end is told all the same.
  }
  beginGesture(live)
  const listening = new AbortController()
  const finish = (cancelled: boolean) => {
    if (listening.signal.aborted) return
    listening.abort()
    const changed = endGesture(cancelled)
    onEnd?.(cancelled, changed)
  }
  const options = { signal: listening.signal, capture: true }
  const own = (work: (of: PointerEvent) => void) => (of: PointerEvent) => {
    if (of.pointerId === pointerId) work(of)
  }
  window.addEventListener('pointermove', own(onMove), options)
  window.addEventListener(
    'pointerup',
    own(() => finish(false)),
    options,
  )
  window.addEventListener(
    'pointercancel',
    own(() => finish(true)),
    options,
  )
  // Of the window alone: fields that lose the focus on the way have nothing to do with it.
  window.addEventListener('blur', ({ target }) => target === window && finish(false), { signal: listening.signal })
  window.addEventListener(
    'keydown',
    (key) => {
      if (key.key !== 'Escape') return
      key.preventDefault()
      key.stopPropagation()
      finish(true)
    },
    options,
  )
}
