'use client'

import { type RefObject, useEffect, useState } from 'react'

/** Which part of the compared pictures is shown: px of the screen per px of the picture, and the picture's px in the middle. */
export interface ShownRegion {
  readonly zoom: number
  readonly x: number
  readonly y: number
}

/** The largest zoom: a pixel is then as large as a button. */
export const MAX_COMPARED_ZOOM = 32
/** Zoom factor for one press of a key or button. */
const STEP = 2

interface Sizes {
  /** px of the pictures. */
  readonly width: number
  readonly height: number
  /** px of the screen per px of the picture where all of it is seen. */
  readonly fit: number
}

/**
 * The view at a zoom, with one point of the picture staying in place; the point is given from the middle, in px of the
 * screen.
 */
export function zoomed(view: ShownRegion, zoom: number, { x, y }: { x: number; y: number }, sizes: Sizes): ShownRegion {
  const next = Math.max(sizes.fit, Math.min(MAX_COMPARED_ZOOM, zoom))
  const kept = { zoom: next, x: view.x + x / view.zoom - x / next, y: view.y + y / view.zoom - y / next }
  return bounded(kept, sizes)
}

/** The view with no more beside the picture than there must be. */
export function bounded({ zoom, x, y }: ShownRegion, { width, height, fit }: Sizes): ShownRegion {
  const half = fit / zoom / 2
  const clamp = (at: number, side: number) => Math.min(side * (1 - half), Math.max(side * half, at))
  return { zoom, x: clamp(x, width), y: clamp(y, height) }
}

/** One view of several pictures of one size, so that they are zoomed and panned in lockstep; the wheel zooms about the pointer. */
export function useViewport(box: RefObject<HTMLElement | null>, sizes: Sizes) {
  const [chosen, setView] = useState<ShownRegion | null>(null)
  const { width, height, fit } = sizes
  const whole: ShownRegion = { zoom: fit, x: width / 2, y: height / 2 }
  const view = chosen ? bounded({ ...chosen, zoom: Math.max(chosen.zoom, fit) }, sizes) : whole
  const by = (factor: number) => setView(zoomed(view, view.zoom * factor, { x: 0, y: 0 }, sizes))
  useEffect(() => {
    const element = box.current
    if (!element || width === 0) return
    const onWheel = (event: WheelEvent) => {
      const canvas = (event.target as Element).closest('[data-picture]')
      if (!canvas) return
      event.preventDefault()
      const rect = canvas.getBoundingClientRect()
      const point = {
        x: event.clientX - rect.left - rect.width / 2,
        y: event.clientY - rect.top - rect.height / 2,
      }
      setView((now) => {
        const from = now ?? { zoom: fit, x: width / 2, y: height / 2 }
        return zoomed(from, from.zoom * Math.exp(-event.deltaY / 300), point, { width, height, fit })
      })
    }
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [box, width, height, fit])
  return {
    view,
    isWhole: view.zoom <= fit * 1.001,
    zoomIn: () => by(STEP),
    zoomOut: () => by(1 / STEP),
    /** All of the picture. */
    showAll: () => setView(null),
    /** A px of the picture for one of the screen. */
    showPixels: () => setView(zoomed(view, 1, { x: 0, y: 0 }, sizes)),
    /** Moves by px of the screen. */
    pan: (dx: number, dy: number) =>
      setView(bounded({ ...view, x: view.x - dx / view.zoom, y: view.y - dy / view.zoom }, sizes)),
  }
}
export type Viewport = ReturnType<typeof useViewport>
