'use client'

import { type ReactNode, useEffect, useRef } from 'react'
import type { ShownRegion } from './viewport'

interface PictureCanvasProps {
  /** One, or two half and half or, with an edge, one beside the other. */
  readonly bitmaps: readonly (ImageBitmap | null)[]
  /** px of the screen */
  readonly width: number
  readonly height: number
  /** px of the picture */
  readonly size: { readonly width: number; readonly height: number }
  readonly view: ShownRegion
  /** Share of the width at which the second begins. */
  readonly edge: number | null
  readonly label: string
  readonly weave: boolean
  readonly onPan: (dx: number, dy: number) => void
  /** A px of the picture is pointed at; null when the pointer leaves. */
  readonly onPoint: (at: { x: number; y: number } | null) => void
  readonly children?: ReactNode
}

/** A picture, or two, as far as the view shows it. Dragging it pans. */
export function PictureCanvas(props: PictureCanvasProps) {
  const { bitmaps, width, height, size, view, edge, label, weave, onPan, onPoint, children } = props
  const canvas = useRef<HTMLCanvasElement>(null)
  const dragged = useRef<{ x: number; y: number } | null>(null)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    context.clearRect(0, 0, width, height)
    for (const [i, bitmap] of bitmaps.entries()) {
      if (!bitmap || bitmap.width === 0) continue
      context.save()
      if (edge !== null) {
        context.beginPath()
        context.rect(i === 0 ? 0 : edge * width, 0, i === 0 ? edge * width : width, height)
        context.clip()
      }
      context.globalAlpha = i === 0 || edge !== null ? 1 : 0.5
      // Pixels that are larger than those of the screen are shown as they are.
      context.imageSmoothingEnabled = view.zoom < 1.5
      context.imageSmoothingQuality = 'high'
      const left = width / 2 - view.x * view.zoom
      const top = height / 2 - view.y * view.zoom
      context.drawImage(bitmap, left, top, size.width * view.zoom, size.height * view.zoom)
      context.restore()
    }
  }, [bitmaps, width, height, size, view, edge])
  const pointAt = (event: React.PointerEvent) => {
    const rect = event.currentTarget.getBoundingClientRect()
    return {
      x: Math.floor(view.x + (event.clientX - rect.left - width / 2) / view.zoom),
      y: Math.floor(view.y + (event.clientY - rect.top - height / 2) / view.zoom),
    }
  }
  return (
    <div
      data-picture
      className={`relative touch-none overflow-hidden ${weave ? 'weave' : ''}`}
      style={{ width, height, outline: '1px solid var(--color-base-300)' }}
      onPointerDown={(event) => {
        if (event.button !== 0) return
        event.currentTarget.setPointerCapture(event.pointerId)
        dragged.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerMove={(event) => {
        onPoint(pointAt(event))
        const from = dragged.current
        if (!from) return
        onPan(event.clientX - from.x, event.clientY - from.y)
        dragged.current = { x: event.clientX, y: event.clientY }
      }}
      onPointerUp={() => {
        dragged.current = null
      }}
      onPointerLeave={() => onPoint(null)}
    >
      <canvas ref={canvas} width={width} height={height} role="img" aria-label={label} />
      {children}
    </div>
  )
}
