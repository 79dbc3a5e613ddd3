'use client'

import { changeLayer, findPlace, type Loop } from '@/core/document'
import { motionPath, movePath, movesAbout, parentMatrix, turnPath } from '@/core/edit'
import { invert, type Point, transformPoint } from '@/core/path'
import { changeLoop } from '@/store/document'
import { useSession } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import type { OverFrame } from './stage-view'

const MAX_POINTS = 160
/** Px of the screen beside the path that still take hold of it. */
const REACH = 12

/**
 * The way that the selected layer goes over the stage, once round the loop. Dragged, the whole of it moves; with Shift it
 * is turned and scaled about its point at the playhead.
 */
export function MotionPath({ loop, frame, scale, pointOf }: OverFrame) {
  const selection = useSession((session) => session.selection)
  const [id] = selection
  const place = selection.length === 1 && id !== undefined ? findPlace(loop, id) : undefined
  if (!place || !movesAbout(place.layer)) return null
  const { layer, parents } = place
  const { length } = loop
  const outer = parentMatrix(parents, frame, length)
  const back = invert(outer)
  if (!back) return null
  const count = Math.min(MAX_POINTS, 2 * length)
  const frames = Array.from({ length: count + 1 }, (_, i) => (i * length) / count - (i === count ? 1e-6 : 0))
  const onStage = (points: readonly Point[]) => points.map((point) => transformPoint(outer, point))
  const line = onStage(motionPath(layer, frames, length))
    .map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`)
    .join(' ')
  const [here] = onStage(motionPath(layer, [frame], length))
  const marks =
    length <= 120
      ? onStage(
          motionPath(
            layer,
            Array.from({ length }, (_, n) => n),
            length,
          ),
        )
      : []
  const px = 1 / scale

  const follow = (now: { readonly start: Loop; readonly from: Point }) => (event: PointerEvent) => {
    if (!here) return
    const to = pointOf(event)
    if (event.shiftKey) {
      const at = (point: Point) => ({
        angle: Math.atan2(point.y - here.y, point.x - here.x),
        away: Math.hypot(point.x - here.x, point.y - here.y),
      })
      const a = at(now.from)
      const b = at(to)
      const degrees = ((b.angle - a.angle) * 180) / Math.PI
      const factor = a.away > 1 ? Math.max(0.01, b.away / a.away) : 1
      return changeLoop(() =>
        changeLayer(now.start, layer.id, (each) => turnPath(each, degrees, factor, frame, length)),
      )
    }
    const a = transformPoint(back, now.from)
    const b = transformPoint(back, to)
    const round = (by: number) => Number(by.toFixed(2))
    changeLoop(() => changeLayer(now.start, layer.id, (each) => movePath(each, round(b.x - a.x), round(b.y - a.y))))
  }
  return (
    <g data-testid="motion-path">
      <polyline points={line} fill="none" className="stroke-base-100/70" strokeWidth={3.5 * px} pointerEvents="none" />
      <polyline
        points={line}
        fill="none"
        className="stroke-primary"
        strokeWidth={1.25 * px}
        strokeDasharray={`${5 * px} ${3 * px}`}
        pointerEvents="none"
      />
      {marks.map(({ x, y }, n) => (
        <circle key={n} cx={x} cy={y} r={1.6 * px} className="fill-primary" pointerEvents="none" />
      ))}
      <polyline
        data-testid="motion-path-line"
        points={line}
        fill="none"
        stroke="transparent"
        strokeWidth={REACH * px}
        className="cursor-move"
        pointerEvents="stroke"
        onPointerDown={(event) => {
          if (event.button !== 0) return
          startDrag(event, { live: true, onMove: follow({ start: loop, from: pointOf(event) }) })
        }}
      >
        <title>Drag the whole motion; with Shift, turn and scale it about the playhead’s point</title>
      </polyline>
    </g>
  )
}
