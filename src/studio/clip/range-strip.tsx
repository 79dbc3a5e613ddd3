'use client'

import { useRef } from 'react'
import { useRoom } from '../parts'
import type { FrameSource } from '../seam/compare'
import { Thumb, thumbWidth } from '../seam/strip'

interface RangeStripProps {
  readonly source: FrameSource
  readonly length: number
  readonly range: readonly [number, number]
  /** The range as it is being pulled. */
  readonly onRange: (range: readonly [number, number]) => void
}

/** The whole clip in a row, with a handle at each end of the range that is kept: pulled, they crop the clip. */
export function RangeStrip({ source, length, range, onRange }: RangeStripProps) {
  const { box, ...room } = useRoom()
  const strip = useRef<HTMLDivElement>(null)
  const width = thumbWidth(source)
  const count = Math.max(1, Math.min(length, Math.floor((room.width - 48) / width)))
  const shown = Array.from({ length: count }, (_, i) => Math.floor((i * length) / count))
  const [from, to] = range
  /** Handles lie on the borders between frames. */
  const set = (end: 0 | 1, border: number) =>
    onRange(
      end === 0
        ? [Math.min(to - 1, Math.max(0, border)), to]
        : [from, Math.max(from + 1, Math.min(length - 1, border - 1))],
    )
  const handle = (end: 0 | 1) => {
    const border = end === 0 ? from : to + 1
    return (
      <div
        role="slider"
        tabIndex={0}
        aria-label={end === 0 ? 'First frame of the range' : 'Last frame of the range'}
        aria-valuemin={end === 0 ? 0 : from + 1}
        aria-valuemax={end === 0 ? to - 1 : length - 1}
        aria-valuenow={range[end]}
        className="absolute inset-y-0 z-10 flex w-3 cursor-ew-resize touch-none items-center justify-center rounded-sm bg-primary"
        style={{ left: `calc(${(100 * border) / length}% - ${end === 0 ? 12 : 0}px)` }}
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={(event) => {
          const rect = strip.current?.getBoundingClientRect()
          if (!rect || !event.currentTarget.hasPointerCapture(event.pointerId)) return
          set(end, Math.round(((event.clientX - rect.left) / rect.width) * length))
        }}
        onKeyDown={(event) => {
          const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key]
          if (by === undefined) return
          event.preventDefault()
          event.stopPropagation()
          set(end, border + by)
        }}
      >
        <span className="h-4 border-primary-content border-s" />
      </div>
    )
  }
  return (
    <div ref={box} className="flex h-full items-center justify-center overflow-hidden px-6">
      <div ref={strip} className="relative flex" role="group" aria-label="The whole clip">
        {shown.map((n) => (
          <Thumb key={n} source={source} n={n} width={width} />
        ))}
        <div className="absolute inset-y-0 left-0 bg-base-200/80" style={{ width: `${(100 * from) / length}%` }} />
        <div
          className="absolute inset-y-0 right-0 bg-base-200/80"
          style={{ width: `${(100 * (length - 1 - to)) / length}%` }}
        />
        <div
          className="pointer-events-none absolute inset-y-0 border-primary border-y-2"
          style={{ left: `${(100 * from) / length}%`, width: `${(100 * (to + 1 - from)) / length}%` }}
        />
        {handle(0)}
        {handle(1)}
      </div>
    </div>
  )
}
