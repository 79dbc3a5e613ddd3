'use client'

import { useEffect, useRef } from 'react'
import { classNames } from '../parts'
import type { FrameSource } from '../seam/compare'

interface StripProps {
  readonly source: FrameSource
  readonly length: number
  /** The frame that is looked at, and the one that it is compared with. */
  readonly frames: readonly [number, number]
  readonly onFrame: (n: number) => void
}

/** Frames on each side of the seam. */
const REACH = 6
const HEIGHT = 56

/** Frames in a row with the seam in the middle: pressing one looks at it and at the frame after it. */
export function Strip({ source, length, frames, onFrame }: StripProps) {
  const reach = Math.min(REACH, Math.floor(length / 2))
  const shown = Array.from({ length: 2 * reach }, (_, i) => (i - reach + length) % length)
  const width = Math.max(12, Math.min(96, Math.round((HEIGHT * source.width) / source.height)))
  return (
    <div
      className="flex h-full items-center justify-center gap-1 overflow-hidden px-3"
      role="group"
      aria-label="Frames at the seam"
    >
      {shown.map((n, i) => (
        <button
          key={`${i} ${n}`}
          type="button"
          aria-label={`Frame ${n}`}
          aria-pressed={frames[0] === n}
          className={classNames(
            'figures rounded-field p-0.5 text-2xs',
            i === reach && 'ms-3 border-accent border-s-2 ps-3',
            frames.includes(n) ? 'text-primary' : 'dim',
          )}
          onClick={() => onFrame(n)}
        >
          <Small source={source} n={n} width={width} />
          {n}
        </button>
      ))}
    </div>
  )
}

function Small({ source, n, width }: { source: FrameSource; n: number; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    let current = true
    source.bitmap(n, width, HEIGHT).then(
      (bitmap) => {
        const context = current ? canvas.current?.getContext('2d') : null
        context?.clearRect(0, 0, width, HEIGHT)
        context?.drawImage(bitmap, 0, 0, width, HEIGHT)
        bitmap.close()
      },
      // Another clip has been opened in the meantime; its own frames follow.
      () => {},
    )
    return () => {
      current = false
    }
  }, [source, n, width])
  return (
    <canvas
      ref={canvas}
      width={width}
      height={HEIGHT}
      className={classNames('block', source.transparent && 'weave')}
      aria-hidden="true"
    />
  )
}
