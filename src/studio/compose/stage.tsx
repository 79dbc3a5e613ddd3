'use client'

import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { layerKind } from '@/core/layers'
import { evaluate, findPlace, freeName, type Guide, type Loop, newId, stageBounds } from '@/core/loop'
import type { Box, Point } from '@/core/path'
import { layersAt } from '@/render/hit'
import { beginGesture, changeLoop, documentStore, endGesture } from '@/store/document'
import type { FrameStore } from '@/store/frames'
import { PIVOT_TOOL, setSession, useSessionParts, useShownLoop, useStillFrame } from '@/store/session'
import { useFrames } from '../playback'
import { SelectionHandles } from './selection-handles'
import { SnapGuides } from './snap-guides'
import { dragStage, type StageDrag } from './stage-drag'

/** Room around the frame, in px of the screen. */
const MARGIN = 28
/** A drag shorter than this is a press, px of the screen. */
const PRESS_PX = 3
const SNAP_PX = 6

/** How much room there is for the frame, and the scale at which it fits. */
function useFit(loop: Loop | null) {
  const box = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState({ width: 0, height: 0 })
  useLayoutEffect(() => {
    if (!box.current) return
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: entry.contentRect.width, height: entry.contentRect.height })
    })
    observer.observe(box.current)
    return () => observer.disconnect()
  }, [])
  const fit = loop ? Math.min((room.width - 2 * MARGIN) / loop.width, (room.height - 2 * MARGIN) / loop.height) : 0
  return { box, scale: Math.max(0.02, fit), known: room.width > 0 }
}

/** The frame with direct handles: layers are drawn, picked, moved, turned and scaled here. */
export function Stage({ onFrames }: { onFrames: (frames: FrameStore | null) => void }) {
  const loop = useShownLoop()
  const { box, scale, known } = useFit(loop)
  const frames = useFrames(known && loop ? loop.width * scale : 0)
  useEffect(() => onFrames(frames), [onFrames, frames])
  return (
    <div ref={box} className="relative h-full min-h-0 overflow-hidden bg-base-200" data-testid="stage">
      {loop && known && (
        <div
          className={`absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 ${loop.background === null ? 'weave' : ''}`}
          style={{ width: loop.width * scale, height: loop.height * scale, outline: '1px solid var(--color-base-300)' }}
        >
          <FrameCanvas frames={frames} width={loop.width * scale} height={loop.height * scale} />
          <StageOverlay loop={loop} scale={scale} />
        </div>
      )}
    </div>
  )
}

/** The canvas on which the worker shows the frame under the playhead. */
function FrameCanvas({ frames, width, height }: { frames: FrameStore | null; width: number; height: number }) {
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
      style={{ width, height }}
      role="img"
      aria-label="The frame under the playhead"
    />
  )
}

interface Feedback {
  readonly guides: readonly Guide[]
  readonly box: Box | null
}
const NOTHING: Feedback = { guides: [], box: null }

function StageOverlay({ loop, scale }: { loop: Loop; scale: number }) {
  const frame = useStillFrame()
  const { selection, tool, playing, snapping, preview } = useSessionParts(
    'selection',
    'tool',
    'playing',
    'snapping',
    'preview',
  )
  const drag = useRef<{ drag: StageDrag; start: Loop; screen: Point; moved: boolean } | null>(null)
  const [feedback, setFeedback] = useState<Feedback>(NOTHING)
  const surface = useRef<SVGSVGElement>(null)

  const pointOf = (event: React.PointerEvent | React.MouseEvent): Point => {
    const rect = surface.current?.getBoundingClientRect()
    return { x: (event.clientX - (rect?.left ?? 0)) / scale, y: (event.clientY - (rect?.top ?? 0)) / scale }
  }
  const begin = (event: React.PointerEvent, what: StageDrag) => {
    event.stopPropagation()
    surface.current?.setPointerCapture(event.pointerId)
    const { loop: start } = documentStore.getState()
    if (!start) return
    setSession({ playing: false })
    beginGesture()
    drag.current = { drag: what, start, screen: { x: event.clientX, y: event.clientY }, moved: false }
  }
  const pick = (event: React.PointerEvent): readonly string[] => {
    const hit = layersAt(evaluate(loop, frame), pointOf(event)).filter((id) => {
      const place = findPlace(loop, id)
      return place && ![place.layer, ...place.parents].some(({ locked }) => locked)
    })
    if (hit.length === 0) return []
    const already = hit.find((id) => selection.includes(id))
    const id = already ?? (hit.at(-1) as string)
    if (!event.shiftKey) return already ? selection : [id]
    return already ? selection.filter((each) => each !== id) : [...selection, id]
  }
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0 || preview) return
    const from = pointOf(event)
    const [only] = selection
    if (tool === PIVOT_TOOL) {
      if (selection.length === 1 && only) {
        begin(event, { type: 'pivot', id: only })
        onPointerMove(event)
      }
      return
    }
    if (tool) {
      const name = freeName(loop, layerKind(tool).label)
      return begin(event, { type: 'draw', kind: tool, from, id: newId(), name })
    }
    const ids = pick(event)
    if (ids.join() !== selection.join()) setSession({ selection: ids, property: null })
    if (ids.length > 0) {
      const tops = ids.filter((id) => !findPlace(loop, id)?.parents.some((parent) => ids.includes(parent.id)))
      begin(event, { type: 'move', from, ids: tops, box: stageBounds(loop, tops, frame) })
    }
  }
  const onPointerMove = (event: React.PointerEvent) => {
    const now = drag.current
    if (!now) return
    if (
      !now.moved &&
      now.drag.type !== 'pivot' &&
      Math.hypot(event.clientX - now.screen.x, event.clientY - now.screen.y) < PRESS_PX
    )
      return
    now.moved = true
    const result = dragStage(now.drag, {
      start: now.start,
      frame,
      to: pointOf(event),
      even: event.shiftKey,
      tolerance: snapping && !event.altKey ? SNAP_PX / scale : 0,
    })
    changeLoop(() => result.loop)
    setFeedback({ guides: result.guides, box: result.box })
  }
  const finish = (cancel: boolean) => {
    const now = drag.current
    if (!now) return
    drag.current = null
    endGesture(cancel || !now.moved)
    setFeedback(NOTHING)
    if (now.drag.type === 'pivot') setSession({ tool: null })
    if (now.drag.type === 'draw')
      setSession({ tool: null, ...(now.moved && !cancel ? { selection: [now.drag.id], property: null } : {}) })
  }
  /** A double press goes one step into a group. */
  const onDoubleClick = (event: React.MouseEvent) => {
    const hit = layersAt(evaluate(loop, frame), pointOf(event))
    const at = hit.findIndex((id) => selection.includes(id))
    if (at > 0) setSession({ selection: [hit[at - 1] as string], property: null })
  }
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && drag.current) {
        drag.current = null
        endGesture(true)
        setFeedback(NOTHING)
      }
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])

  return (
    <svg
      ref={surface}
      className="absolute inset-0 touch-none overflow-visible"
      width={loop.width * scale}
      height={loop.height * scale}
      viewBox={`0 0 ${loop.width} ${loop.height}`}
      style={{ cursor: tool ? 'crosshair' : 'default' }}
      aria-hidden="true"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={() => finish(false)}
      onPointerCancel={() => finish(true)}
      onDoubleClick={onDoubleClick}
    >
      <rect x={-2000} y={-2000} width={loop.width + 4000} height={loop.height + 4000} fill="transparent" />
      {!playing && !preview && <SelectionHandles loop={loop} frame={frame} scale={scale} onBegin={begin} />}
      <SnapGuides loop={loop} guides={feedback.guides} box={feedback.box} scale={scale} />
    </svg>
  )
}
