'use client'

import { type RefObject, useCallback, useEffect, useRef } from 'react'
import { frameNow, usePlayback } from '@/store/playback'
import { setSession, usePlayhead } from '@/store/session'
import { useFollowTime } from '../../playback'
import { DIAL } from './dial-geometry'

interface HandProps {
  readonly length: number
  readonly onTurn: (event: React.PointerEvent) => void
  readonly turning: RefObject<boolean>
}

/** The playhead: a hand that can be dragged. A layer of its own, so that playing draws nothing of the dial anew. */
export function Hand({ length, onTurn, turning }: HandProps) {
  const hand = useRef<HTMLDivElement>(null)
  useFollowTime(
    hand,
    useCallback((frame: number) => `rotate(${(frame / length) * 360}deg)`, [length]),
  )
  const frame = usePlayhead((playhead) => playhead.frame)
  const share = (units: number) => `${(units / (2 * DIAL.radius)) * 100}%`
  const from = DIAL.radius - DIAL.ticks - 4.5
  return (
    <div
      ref={hand}
      role="slider"
      tabIndex={0}
      aria-label="Playhead"
      aria-valuemin={0}
      aria-valuemax={length - 1}
      aria-valuenow={frame}
      className="pointer-events-none absolute inset-0 rounded-full will-change-transform"
    >
      <div
        className="pointer-events-auto absolute left-1/2 flex w-3 -translate-x-1/2 cursor-grab touch-none flex-col items-center"
        style={{ top: share(from), height: share(DIAL.ticks - DIAL.inner + 10) }}
        onPointerDown={(event) => {
          event.stopPropagation()
          event.currentTarget.setPointerCapture(event.pointerId)
          turning.current = true
          setSession({ playing: false })
        }}
        onPointerMove={(event) => turning.current && onTurn(event)}
        onPointerUp={() => {
          turning.current = false
        }}
      >
        <span className="size-2.5 shrink-0 rounded-full bg-primary" />
        <span className="w-[1.6px] flex-1 bg-primary" />
      </div>
    </div>
  )
}

/** A figure that changes faster than this cannot be read, ms. */
const FIGURE_MS = 200

/** The frame under the playhead, in the middle of the dial. */
export function FrameFigure({ length }: { length: number }) {
  const figure = useRef<HTMLSpanElement>(null)
  const playing = usePlayback(({ playback }) => playback !== null)
  useEffect(() => {
    const write = () => {
      // The text node itself is changed: a new one would make the page look for its styles anew.
      const text = figure.current?.firstChild
      if (text) text.nodeValue = String(frameNow())
    }
    write()
    if (!playing) return usePlayhead.subscribe(write)
    const timer = setInterval(write, FIGURE_MS)
    return () => clearInterval(timer)
  }, [playing])
  return (
    <div className="pointer-events-none absolute top-1/2 left-1/2 flex h-12 w-24 -translate-x-1/2 -translate-y-1/2 flex-col items-center justify-center font-mono tabular-nums will-change-transform [contain:strict]">
      <span ref={figure} data-testid="frame" className="text-2xl leading-7">
        0
      </span>
      <span className="dim text-2xs">of {length}</span>
    </div>
  )
}
