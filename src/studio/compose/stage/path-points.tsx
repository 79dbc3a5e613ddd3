'use client'

import { changeLayer, type Loop } from '@/core/document'
import { setValue } from '@/core/edit'
import { invert, movePathPoint, type PathPoint, type Point, pathPoints, transformPoint } from '@/core/path'
import { changeLoop } from '@/store/document'
import { useSession } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import { layerOnStage } from './stage-drag'

interface PathPointsProps {
  readonly loop: Loop
  readonly frame: number
  readonly scale: number
  readonly pointOf: (event: Pick<MouseEvent, 'clientX' | 'clientY'>) => Point
}

/** More points than this are too near to each other to be taken hold of. */
const MOST = 240

/** The points and handles of the selected path, to be dragged. */
export function PathPoints({ loop, frame, scale, pointOf }: PathPointsProps) {
  const selection = useSession((session) => session.selection)
  const [id] = selection
  const on = selection.length === 1 && id !== undefined ? layerOnStage(loop, id, frame) : null
  const value = (on?.values as unknown as Record<string, unknown> | undefined)?.path
  const shown =
    on &&
    !on.layer.locked &&
    typeof value === 'string' &&
    (on.layer.kind !== 'copies' || on.layer.values.arrangement === 'path')
  if (!on || !shown) return null
  const points = pathPoints(value)
  const back = invert(on.matrix)
  if (points.length > MOST || !back) return null
  const px = 1 / scale
  const place = (point: PathPoint) => (event: PointerEvent) => {
    const { x, y } = transformPoint(back, pointOf(event))
    const next = movePathPoint(value, point, Number(x.toFixed(2)), Number(y.toFixed(2)))
    changeLoop((current) =>
      changeLayer(current, on.layer.id, (each) => setValue(each, 'path', next, frame, current.length)),
    )
  }
  return (
    <g>
      {points.map((point, i) => {
        const at = transformPoint(on.matrix, point)
        const end = point.part === 2
        const anchor = points[point.part === 0 ? i - 1 : i + 1]
        const from = end || !anchor ? null : transformPoint(on.matrix, anchor)
        return (
          <g key={`${point.segment} ${point.part}`}>
            {from && <line x1={from.x} y1={from.y} x2={at.x} y2={at.y} className="stroke-accent/60" strokeWidth={px} />}
            <circle
              data-path-point={end ? 'end' : 'handle'}
              cx={at.x}
              cy={at.y}
              r={(end ? 4 : 3) * px}
              className={`cursor-move stroke-accent ${end ? 'fill-accent' : 'fill-base-100'}`}
              strokeWidth={1.25 * px}
              onPointerDown={(event) => startDrag(event, { live: true, onMove: place(point) })}
            />
          </g>
        )
      })}
    </g>
  )
}
