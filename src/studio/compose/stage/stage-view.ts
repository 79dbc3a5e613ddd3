'use client'

import { type RefObject, useEffect } from 'react'
import type { Loop } from '@/core/document'
import type { Point } from '@/core/path'
import { MAX_STAGE_ZOOM, setSession, useSession } from '@/store/session'
import { useRoom } from '../../parts'

/** Room around the frame, in px of the screen. */
const MARGIN = 28
/** Where the frame lies on the stage: px of the screen per px of the frame, and its upper left corner. */
interface Placed {
  readonly scale: number
  readonly left: number
  readonly top: number
}

/** State needed by handles drawn over the frame. */
export interface OverFrame {
  readonly loop: Loop
  readonly frame: number
  readonly scale: number
  /** The point of the frame under the pointer. */
  readonly pointOf: (event: Pick<MouseEvent, 'clientX' | 'clientY'>) => Point
}

/** How much room there is for the frame, and where it lies in it. */
export function usePlaced(loop: Loop | null) {
  const { box, ...room } = useRoom()
  const zoom = useSession((session) => session.zoom)
  if (!loop || room.width === 0) return { box, placed: null, fit: 1 }
  const { width, height } = loop
  const fit = Math.max(0.02, Math.min((room.width - 2 * MARGIN) / width, (room.height - 2 * MARGIN) / height))
  const { factor, x, y } = zoom ?? { factor: 1, x: width / 2, y: height / 2 }
  const scale = fit * factor
  const placed: Placed = { scale, left: room.width / 2 - x * scale, top: room.height / 2 - y * scale }
  return { box, placed, fit }
}

/** The wheel pans a frame that is larger than the stage; with Ctrl, or a pinch, it zooms about the pointer. */
export function useWheel(box: RefObject<HTMLDivElement | null>, placed: Placed | null, fit: number) {
  useEffect(() => {
    const element = box.current
    if (!element || !placed) return
    const { scale, left, top } = placed
    const onWheel = (event: WheelEvent) => {
      const { zoom } = useSession.getState()
      const rect = element.getBoundingClientRect()
      const middle = { x: (rect.width / 2 - left) / scale, y: (rect.height / 2 - top) / scale }
      if (!event.ctrlKey && !event.metaKey) {
        if (!zoom) return
        event.preventDefault()
        setSession({ zoom: { ...zoom, x: zoom.x + event.deltaX / scale, y: zoom.y + event.deltaY / scale } })
        return
      }
      event.preventDefault()
      const wanted = (scale / fit) * Math.exp(-event.deltaY / 300)
      const factor = Math.min(MAX_STAGE_ZOOM, Math.max(1 / 8, wanted))
      const kept = 1 - scale / (factor * fit)
      const pointer = { x: (event.clientX - rect.left - left) / scale, y: (event.clientY - rect.top - top) / scale }
      const x = middle.x + (pointer.x - middle.x) * kept
      const y = middle.y + (pointer.y - middle.y) * kept
      setSession({ zoom: { factor, x, y } })
    }
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [box, placed, fit])
}
