'use client'

import { useEffect, useRef } from 'react'
import { type Loop, tooMuchToDraw } from '@/core/document'
import type { FrameStore } from '@/store/frames'

/** The part of the loop that the frame does not show, with the reason: too much to draw, or missing files. */
export function StageNotice({ loop, missing }: { loop: Loop; missing: readonly string[] }) {
  const names = missing.map((id) => loop.media.find((each) => each.id === id)?.name ?? id)
  const notice =
    tooMuchToDraw(loop) ??
    (names.length > 0
      ? `${names.map((name) => `“${name}”`).join(', ')} cannot be shown: the file is missing or damaged. Bring it in again, or delete its layers.`
      : null)
  if (!notice) return null
  return (
    <p
      role="alert"
      className="hairline absolute inset-x-8 top-3 rounded-box border bg-base-100 px-3 py-2 text-center text-error text-xs leading-4"
      data-testid="stage-notice"
    >
      {notice}
    </p>
  )
}

interface FrameCanvasProps {
  readonly frames: FrameStore | null
  readonly width: number
  readonly height: number
  /** Whether pixels are shown as squares. */
  readonly pixels: boolean
}

/** The canvas on which the worker shows the frame under the playhead. */
export function FrameCanvas({ frames, width, height, pixels }: FrameCanvasProps) {
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!frames) return
    const { canvas } = frames
    canvas.style.cssText = 'width:100%;height:100%'
    box.current?.append(canvas)
    return () => canvas.remove()
  }, [frames])
  return (
    <div
      ref={box}
      className="absolute inset-0"
      style={{ width, height, imageRendering: pixels ? 'pixelated' : 'auto' }}
      role="img"
      aria-label="The frame under the playhead"
    />
  )
}
