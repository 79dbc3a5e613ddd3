'use client'

import { useEffect, useRef, useState } from 'react'
import { toast } from 'sonner'
import { findLayer, findPlace, type Loop } from '@/core/document'
import { freeName, type SnapGuide, stageBounds } from '@/core/edit'
import { evaluate } from '@/core/evaluate'
import { newId } from '@/core/id'
import { layerKind } from '@/core/layers'
import { type Box, boxAround, type Point } from '@/core/path'
import { layersAt } from '@/render/hit'
import { changeLoop, currentLoop } from '@/store/document'
import type { FrameStore } from '@/store/frames'
import {
  BRUSH_TOOL,
  FREEHAND_TOOL,
  PEN_TOOL,
  PIVOT_TOOL,
  RECORD_TOOL,
  setSession,
  useSession,
  useSessionParts,
  useShownLoop,
  useStillFrame,
} from '@/store/session'
import { tellTrouble } from '@/store/trouble'
import { shortcutOf } from '../../commands'
import { GroundPicker } from '../../parts'
import { startDrag } from '../../parts/start-drag'
import { useFrames, useMissing } from '../../playback'
import { BesideItself } from './beside-itself'
import { BrushTool } from './brush-tool'
import { FrameCanvas, StageNotice } from './frame-canvas'
import { FreeView } from './free-view'
import { MotionPath } from './motion-path'
import { PathTool } from './path-tool'
import { PropertyPoints } from './property-points'
import { recordDrag } from './record'
import { SelectionHandles } from './selection-handles'
import { SnapGuides } from './snap-guides'
import { dragStage, layersInBox, type StageDrag } from './stage-drag'
import { usePlaced, useWheel } from './stage-view'
import { pivotOnSurface } from './turn-handles'
import { TurnView } from './turn-view'

/** A drag shorter than this is a press, px of the screen. */
const PRESS_PX = 3
const SNAP_PX = 6
/** From this many px of the screen per px of the frame on, pixels are shown as squares. */
const PIXELS_SHOW = 3
/** Presses are taken this far around the frame, px of the frame. */
const FAR = 100_000

/** The frame with direct handles: layers are drawn, picked, moved, turned and scaled here. */
export function Stage({ onFrames }: { onFrames: (frames: FrameStore | null) => void }) {
  const loop = useShownLoop()
  const { box, placed, fit } = usePlaced(loop)
  const frames = useFrames(placed && loop ? loop.width * placed.scale : 0)
  useEffect(() => onFrames(frames), [onFrames, frames])
  useWheel(box, placed, fit)
  const missing = useMissing(frames)
  const tiled = useSession((session) => session.tiled)
  useEffect(() => setSession({ missing }), [missing])
  if (!loop || !placed) return <div ref={box} className="h-full min-h-0 bg-base-200" data-testid="stage" />
  const { scale, left, top } = placed
  const size = { width: loop.width * scale, height: loop.height * scale }
  return (
    <div ref={box} className="relative h-full min-h-0 overflow-hidden bg-base-200" data-testid="stage">
      <div
        className={`absolute ${loop.background === null ? 'weave' : ''}`}
        style={{ ...size, left, top, outline: '1px solid var(--color-base-300)' }}
      >
        {tiled && frames && <BesideItself frames={frames} {...size} />}
        <FrameCanvas frames={frames} {...size} pixels={scale >= PIXELS_SHOW} />
        <StageOverlay loop={loop} scale={scale} />
      </div>
      <StageNotice loop={loop} missing={missing} />
      <FreeView loop={loop} />
      {loop.background === null && (
        <div className="absolute bottom-1 left-1 rounded-field bg-base-200/85 px-1">
          <GroundPicker />
        </div>
      )}
      <button
        type="button"
        className="btn btn-xs figures absolute right-1 bottom-1 border-0 bg-base-200/85 font-normal"
        title={`The frame is shown at this size; press to see all of it (${shortcutOf('whole-frame')})`}
        onClick={() => setSession({ zoom: null })}
      >
        {Math.round(100 * scale)} %
      </button>
    </div>
  )
}

interface Feedback {
  readonly guides: readonly SnapGuide[]
  readonly box: Box | null
  /** The box in which layers are being selected. */
  readonly marquee: Box | null
}
const NOTHING: Feedback = { guides: [], box: null, marquee: null }

type Keys = { readonly shiftKey: boolean; readonly altKey: boolean }

function StageOverlay({ loop, scale }: { loop: Loop; scale: number }) {
  const frame = useStillFrame()
  const { selection, tool, playing, snapping, preview } = useSessionParts(
    'selection',
    'tool',
    'playing',
    'snapping',
    'preview',
  )
  const [feedback, setFeedback] = useState<Feedback>(NOTHING)
  const surface = useRef<SVGSVGElement>(null)

  const pointOf = (event: Pick<MouseEvent, 'clientX' | 'clientY'>): Point => {
    const rect = surface.current?.getBoundingClientRect()
    return { x: (event.clientX - (rect?.left ?? 0)) / scale, y: (event.clientY - (rect?.top ?? 0)) / scale }
  }
  const begin = (event: React.PointerEvent, what: StageDrag) => {
    const start = currentLoop()
    if (!start) return
    setSession({ playing: false })
    let moved = what.type === 'pivot'
    const follow = (pointer: { readonly clientX: number; readonly clientY: number } & Keys) => {
      if (!moved && Math.hypot(pointer.clientX - event.clientX, pointer.clientY - event.clientY) < PRESS_PX) return
      moved = true
      const result = dragStage(what, {
        start,
        frame,
        to: pointOf(pointer),
        even: pointer.shiftKey,
        tolerance: snapping && !pointer.altKey ? SNAP_PX / scale : 0,
      })
      changeLoop(() => result.loop)
      setFeedback({ guides: result.guides, box: result.box, marquee: null })
    }
    startDrag(event, {
      live: true,
      onMove: follow,
      onEnd: (cancelled) => {
        setFeedback(NOTHING)
        if (what.type === 'pivot') setSession({ tool: null })
        if (what.type === 'draw')
          setSession({ tool: null, ...(moved && !cancelled ? { selection: [what.id], property: null } : {}) })
      },
    })
    // The pivot is placed by a press alone.
    if (moved) follow(event)
  }
  /** Selects what lies in a box that is drawn with the pointer. */
  const select = (event: React.PointerEvent) => {
    const from = pointOf(event)
    startDrag(event, {
      onMove: (pointer) => {
        const box = boxAround([from, pointOf(pointer)])
        setFeedback({ ...NOTHING, marquee: box })
        if (box) setSession({ selection: layersInBox(loop, box, frame), property: null })
      },
      onEnd: () => setFeedback(NOTHING),
    })
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
    if (event.button === 1) return pan(event)
    if (event.button !== 0 || preview) return
    const from = pointOf(event)
    const [only] = selection
    if (tool === PIVOT_TOOL) {
      if (selection.length !== 1 || !only) return
      if (findLayer(loop, only)?.kind !== 'model') return begin(event, { type: 'pivot', id: only })
      setSession({ playing: false, tool: null })
      pivotOnSurface(loop, only, frame, from).then(
        (met) => {
          if (!met) toast('Press on the model itself: it turns about the spot of its surface that is pressed.')
        },
        (error) => tellTrouble('The spot on the model could not be found.', error),
      )
      return
    }
    if (tool === RECORD_TOOL) {
      if (only) recordDrag(event, only, pointOf)
      return
    }
    if (tool) {
      const name = freeName(loop, layerKind(tool).label)
      setSession({ selection: [], property: null })
      return begin(event, { type: 'draw', kind: tool, from, id: newId(), name })
    }
    const ids = pick(event)
    if (ids.join() !== selection.join()) setSession({ selection: ids, property: null })
    if (ids.length > 0) {
      const tops = ids.filter((id) => !findPlace(loop, id)?.parents.some((parent) => ids.includes(parent.id)))
      begin(event, { type: 'move', from, ids: tops, box: stageBounds(loop, tops, frame) })
    } else select(event)
  }
  /** Moves the frame under the pointer until the button is let go. */
  const pan = (event: React.PointerEvent) => {
    event.preventDefault()
    const { zoom } = useSession.getState()
    const from = { x: event.clientX, y: event.clientY }
    const { factor, x, y } = zoom ?? { factor: 1, x: loop.width / 2, y: loop.height / 2 }
    const onMove = ({ clientX, clientY }: PointerEvent) =>
      setSession({ zoom: { factor, x: x - (clientX - from.x) / scale, y: y - (clientY - from.y) / scale } })
    const panning = new AbortController()
    window.addEventListener('pointermove', onMove, { signal: panning.signal })
    for (const end of ['pointerup', 'pointercancel'])
      window.addEventListener(end, () => panning.abort(), { signal: panning.signal })
  }
  /** A double press goes one step into a group. */
  const onDoubleClick = (event: React.MouseEvent) => {
    const hit = layersAt(evaluate(loop, frame), pointOf(event)).filter((id) => findPlace(loop, id))
    const at = hit.findIndex((id) => selection.includes(id))
    if (at > 0) setSession({ selection: [hit[at - 1] as string], property: null })
  }

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
      onDoubleClick={onDoubleClick}
    >
      <rect x={-FAR} y={-FAR} width={2 * FAR} height={2 * FAR} fill="transparent" />
      {!playing && !preview && (
        <>
          {tool !== BRUSH_TOOL && <SelectionHandles loop={loop} frame={frame} scale={scale} onBegin={begin} />}
          <TurnView loop={loop} frame={frame} scale={scale} pointOf={pointOf} />
          <MotionPath loop={loop} frame={frame} scale={scale} pointOf={pointOf} />
          <PropertyPoints loop={loop} frame={frame} scale={scale} pointOf={pointOf} />
        </>
      )}
      {(tool === PEN_TOOL || tool === FREEHAND_TOOL) && (
        <PathTool key={tool} loop={loop} freehand={tool === FREEHAND_TOOL} scale={scale} pointOf={pointOf} />
      )}
      {tool === BRUSH_TOOL && <BrushTool loop={loop} frame={frame} scale={scale} pointOf={pointOf} />}
      {feedback.marquee && (
        <rect {...feedback.marquee} className="fill-accent/10 stroke-accent" strokeWidth={1 / scale} />
      )}
      <SnapGuides loop={loop} guides={feedback.guides} box={feedback.box} scale={scale} />
    </svg>
  )
}
