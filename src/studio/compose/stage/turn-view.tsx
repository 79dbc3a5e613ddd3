'use client'

import { findPlace, type Loop } from '@/core/document'
import { modelOf, parentMatrix } from '@/core/edit'
import { valuesAt } from '@/core/evaluate'
import { cameraOf, centreOfTurn, guideOf, placementMatrix, turnOf } from '@/core/layers'
import { compose, type Point, transformPoint } from '@/core/path'
import { sweptOutline, wobble } from '@/core/solid'
import { useSession } from '@/store/session'

/** A wobble of less than this is not drawn, px. */
const LEAST_WOBBLE = 0.5

/** What the selected model passes through as it turns, the guide that is to hold that, and the way of its centre where it wobbles. */
export function TurnView({ loop, frame, scale }: { loop: Loop; frame: number; scale: number }) {
  const selection = useSession((session) => session.selection)
  const [id] = selection
  const place = selection.length === 1 && id !== undefined ? findPlace(loop, id) : undefined
  const model = place && modelOf(loop, place.layer)
  if (!place || !model) return null
  const values = valuesAt(place.layer, frame, loop.length)
  const [width, height] = [Number(values.width), Number(values.height)]
  const [turn, camera, guide] = [turnOf(model, values), cameraOf(model, values), guideOf(values)]
  const matrix = compose(parentMatrix(place.parents, frame, loop.length), placementMatrix(values))
  const onStage = ({ x, y }: Point) => transformPoint(matrix, { x: x - width / 2, y: y - height / 2 })
  const text = (points: readonly Point[]) =>
    points
      .map(onStage)
      .map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`)
      .join(' ')
  const outline = sweptOutline(model.hull, turn, camera, width, height)
  const [left, top] = [guide.marginX, guide.marginY]
  const slack = 0.5
  const inside = outline.every(
    ({ x, y }) => x >= left - slack && x <= width - left + slack && y >= top - slack && y <= height - top + slack,
  )
  const way = wobble(centreOfTurn(model), turn, camera, width, height)
  const px = 1 / scale
  const corners: Point[] = [
    { x: left, y: top },
    { x: width - left, y: top },
    { x: width - left, y: height - top },
    { x: left, y: height - top },
  ]
  return (
    <g pointerEvents="none" data-testid="turn-view" data-inside={inside}>
      <polygon
        points={text(corners)}
        fill="none"
        className="stroke-base-content/50"
        strokeWidth={px}
        strokeDasharray={`${2 * px} ${3 * px}`}
      />
      <polygon
        points={text(outline)}
        fill="none"
        className={inside ? 'stroke-accent' : 'stroke-error'}
        strokeWidth={1.25 * px}
        strokeDasharray={`${6 * px} ${3 * px}`}
      />
      {way.px >= LEAST_WOBBLE && (
        <polygon
          points={text(way.path)}
          fill="none"
          className="stroke-error"
          strokeWidth={1.5 * px}
          data-testid="wobble-path"
        />
      )}
    </g>
  )
}
