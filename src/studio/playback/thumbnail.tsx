'use client'

import { useEffect, useRef, useState } from 'react'
import { playedFrames } from '@/core/clock'
import type { Loop } from '@/core/document'
import { thumbnailFrames } from '@/store/frames'
import { sharedNow } from '@/workers/shared/timing'
import { classNames } from '../parts'

/** px of the largest, drawn a little finer than shown. */
const MAX_SIZE = { width: 320, height: 200 }
const MAX_ATTEMPTS = 3

interface ThumbnailProps {
  readonly loop: Loop
  readonly className?: string
  /** px within which it is drawn. */
  readonly size?: { readonly width: number; readonly height: number }
}

/** Plays a loop on a small canvas at its own rate while it is in view; still where less motion is asked for. */
export function Thumbnail({ loop, className, size = MAX_SIZE }: ThumbnailProps) {
  const box = useRef<HTMLDivElement>(null)
  const [attempt, setAttempt] = useState(0)
  const scale = Math.min(size.width / loop.width, size.height / loop.height)
  const width = Math.max(1, Math.round(loop.width * scale))

  useEffect(() => {
    const element = box.current
    if (!element) return
    const { frames, end } = thumbnailFrames()
    let gone = false
    // Where the worker that draws it dies, another takes its place.
    frames.broken.catch(() => {
      if (!gone && attempt < MAX_ATTEMPTS) setAttempt(attempt + 1)
    })
    frames.canvas.className = 'max-h-full max-w-full'
    frames.canvas.ariaHidden = 'true'
    element.append(frames.canvas)
    frames.show(loop, width, 0)
    const still = loop.length < 2 || matchMedia('(prefers-reduced-motion: reduce)').matches
    const observer = new IntersectionObserver(([entry]) => {
      const plays = !still && entry?.isIntersecting
      const order = playedFrames(loop.length, false)
      frames.play(plays ? { order, first: 0, rate: loop.rate, pace: 1, startedAt: sharedNow() } : null)
    })
    observer.observe(element)
    return () => {
      gone = true
      observer.disconnect()
      frames.canvas.remove()
      end()
    }
  }, [loop, width, attempt])

  return (
    <div
      ref={box}
      className={classNames('flex items-center justify-center', className, loop.background === null && 'weave')}
      style={loop.background ? { background: loop.background } : undefined}
    />
  )
}
