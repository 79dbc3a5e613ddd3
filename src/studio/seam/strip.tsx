'use client'

import { useEffect, useRef } from 'react'
import { modulo } from '@/core/modulo'
import { classNames, useRoom } from '../parts'
import type { FrameSource } from './compare'

const THUMB_HEIGHT = 48

/** How wide a frame of a strip is, px. */
export const thumbWidth = ({ width, height }: FrameSource): number =>
  Math.max(12, Math.min(96, Math.round((THUMB_HEIGHT * width) / height)))

interface SeamStripProps {
  readonly source: FrameSource
  readonly length: number
  /** The frames that are looked at. */
  readonly frames: readonly number[]
  readonly onFrame: (n: number) => void
}

/** Room between two frames of the strip, its padding included, px. */
const BETWEEN = 8

/** Frames in a row with the seam in the middle, as many as there is room for: pressing or pulling over one looks at it and at the frame after it. */
export function FramesAtSeam({ source, length, frames, onFrame }: SeamStripProps) {
  const { box, ...room } = useRoom()
  const width = thumbWidth(source)
  const fits = Math.floor((room.width - 48) / (width + BETWEEN) / 2)
  const reach = Math.max(1, Math.min(fits, Math.ceil(length / 2)))
  const shown = Array.from({ length: 2 * reach }, (_, i) => modulo(i - reach, length))
  return (
    <div
      ref={box}
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
          onPointerEnter={(event) => {
            if (event.buttons === 1) onFrame(n)
          }}
        >
          <Thumb source={source} n={n} width={width} />
          {n}
        </button>
      ))}
    </div>
  )
}

/** One frame, small. */
export function Thumb({ source, n, width }: { source: FrameSource; n: number; width: number }) {
  const canvas = useRef<HTMLCanvasElement>(null)
  useEffect(() => {
    let current = true
    source.bitmap(n, width, THUMB_HEIGHT).then(
      (bitmap) => {
        const context = current ? canvas.current?.getContext('2d') : null
        context?.clearRect(0, 0, width, THUMB_HEIGHT)
        context?.drawImage(bitmap, 0, 0, width, THUMB_HEIGHT)
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
      height={THUMB_HEIGHT}
      className={classNames('pointer-events-none block', source.transparent && 'weave')}
      aria-hidden="true"
    />
  )
}
