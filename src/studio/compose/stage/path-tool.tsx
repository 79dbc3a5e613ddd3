'use client'

import { useEffect, useRef, useState } from 'react'
import { insertLayers, type Loop } from '@/core/document'
import { freeName, newLayer } from '@/core/edit'
import {
  boxCentre,
  freehandPath,
  type Path,
  type PenPoint,
  type Point,
  pathBox,
  penPath,
  svgPathData,
  transformPath,
} from '@/core/path'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'

interface PathToolProps {
  readonly loop: Loop
  readonly freehand: boolean
  /** px of the screen per px of the frame */
  readonly scale: number
  readonly pointOf: (event: React.PointerEvent | React.MouseEvent) => Point
}

/** A path is closed by a click within this distance of its first point, px of the screen. */
const CLOSE_PX = 10
/** How far a freehand path may be from what was drawn, px of the screen. */
const SMOOTH_PX = 1.5
const FAR = 100_000

/** Adds a drawn path as a layer about its own centre. */
function addPath(path: Path, closed: boolean) {
  const box = pathBox(path)
  if (!box) return
  const centre = boxCentre(box)
  const data = svgPathData(transformPath(path, [1, 0, 0, 1, -centre.x, -centre.y]))
  changeLoop((loop) => {
    const layer = newLayer('path', freeName(loop, 'Path'), {
      ...centre,
      path: data,
      ...(closed ? {} : { fill: null, stroke: '#f2b54a', cap: 'round', join: 'round' }),
    })
    setSession({ selection: [layer.id], property: null, tool: null })
    return insertLayers(loop, [layer])
  })
}

/** Draws a path: point by point, a drag pulling the handles of a point; or freehand, along the pointer. */
export function PathTool({ loop, freehand, scale, pointOf }: PathToolProps) {
  const [points, setPoints] = useState<readonly PenPoint[]>([])
  const [pointer, setPointer] = useState<Point | null>(null)
  const latest = useRef(points)
  latest.current = points
  const drawing = useRef(false)
  const px = 1 / scale

  const finish = (closed: boolean) => {
    const drawn = latest.current
    setPoints([])
    if (drawn.length < 2) return setSession({ tool: null })
    addPath(freehand ? freehandPath(drawn, SMOOTH_PX * px, closed) : penPath(drawn, closed), closed)
  }
  const finishing = useRef(finish)
  finishing.current = finish
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' && event.key !== 'Escape') return
      event.stopPropagation()
      event.preventDefault()
      if (event.key === 'Enter') finishing.current(false)
      else if (latest.current.length === 0) setSession({ tool: null })
      else setPoints([])
    }
    document.addEventListener('keydown', onKey, true)
    return () => document.removeEventListener('keydown', onKey, true)
  }, [])

  const nearStart = (at: Point) => {
    const [first] = latest.current
    return (
      first !== undefined && latest.current.length > 1 && Math.hypot(at.x - first.x, at.y - first.y) < CLOSE_PX * px
    )
  }
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    const at = pointOf(event)
    if (!freehand && event.detail > 1) return finish(false)
    if (!freehand && nearStart(at)) return finish(true)
    drawing.current = true
    setPoints(freehand ? [{ ...at, handle: { x: 0, y: 0 } }] : [...points, { ...at, handle: { x: 0, y: 0 } }])
  }
  const onPointerMove = (event: React.PointerEvent) => {
    event.stopPropagation()
    const at = pointOf(event)
    setPointer(at)
    if (!drawing.current) return
    setPoints((before) => {
      if (freehand) return [...before, { ...at, handle: { x: 0, y: 0 } }]
      const last = before.at(-1)
      return last ? [...before.slice(0, -1), { ...last, handle: { x: at.x - last.x, y: at.y - last.y } }] : before
    })
  }
  const onPointerUp = (event: React.PointerEvent) => {
    if (!drawing.current) return
    drawing.current = false
    if (freehand) finish(points.length > 8 && nearStart(pointOf(event)))
  }

  const ahead = pointer && !freehand && points.length > 0 ? [...points, { ...pointer, handle: { x: 0, y: 0 } }] : points
  return (
    <g
      style={{ cursor: 'crosshair' }}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
    >
      <rect x={-FAR} y={-FAR} width={2 * FAR} height={2 * FAR} fill="transparent" />
      <rect width={loop.width} height={loop.height} fill="transparent" />
      <path d={svgPathData(penPath(ahead, false))} fill="none" className="stroke-accent" strokeWidth={1.5 * px} />
      {!freehand &&
        points.map((point, i) => (
          <circle
            key={i}
            cx={point.x}
            cy={point.y}
            r={4 * px}
            className={
              i === 0 && pointer && nearStart(pointer) ? 'fill-accent stroke-accent' : 'fill-base-100 stroke-accent'
            }
            strokeWidth={1.5 * px}
          />
        ))}
    </g>
  )
}
