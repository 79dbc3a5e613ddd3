'use client'

import { useEffect, useRef } from 'react'
import type { FrameStore } from '@/store/frames'
import { useSession } from '@/store/session'

interface BesideItselfProps {
  readonly frames: FrameStore
  /** px of the screen, of one tile. */
  readonly width: number
  readonly height: number
}

/** A still frame is painted again at these times after it was reported, ms, and then at this interval. */
const AGAIN_MS = [120, 600]
const REPAINT_MS = 2000

/** The frame laid beside itself on all sides, three by three, as a tile is: what it shows at any moment, read from its own canvas. */
export function BesideItself({ frames, width, height }: BesideItselfProps) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const playing = useSession((session) => session.playing)
  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context) return
    let request = 0
    const paint = () => {
      // While it plays each frame of the screen may show another one; else it is told.
      if (playing) request = requestAnimationFrame(paint)
      const { width: w, height: h } = frames.canvas
      const own = context.canvas
      if (own.width !== 3 * w || own.height !== 3 * h) {
        own.width = 3 * w
        own.height = 3 * h
      }
      context.clearRect(0, 0, own.width, own.height)
      for (const down of [0, 1, 2])
        for (const across of [0, 1, 2]) context.drawImage(frames.canvas, across * w, down * h)
    }
    let waiting: ReturnType<typeof setTimeout>[] = []
    const later = () => {
      cancelAnimationFrame(request)
      request = requestAnimationFrame(paint)
      // The worker's drawing may reach the canvas of the page only after its message, on a busy machine much later.
      for (const each of waiting) clearTimeout(each)
      waiting = playing ? [] : AGAIN_MS.map((ms) => setTimeout(paint, ms))
    }
    later()
    frames.canvas.addEventListener('shown', later)
    const repainting = playing ? undefined : setInterval(paint, REPAINT_MS)
    return () => {
      clearInterval(repainting)
      frames.canvas.removeEventListener('shown', later)
      cancelAnimationFrame(request)
      for (const each of waiting) clearTimeout(each)
    }
  }, [frames, playing])
  return (
    <canvas
      ref={canvas}
      className="pointer-events-none absolute opacity-80"
      style={{ width: 3 * width, height: 3 * height, left: -width, top: -height, maxWidth: 'none' }}
      role="img"
      aria-label="The frame laid beside itself, three by three"
    />
  )
}
