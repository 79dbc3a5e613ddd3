'use client'

import { findPlace } from '@/core/document'
import { centreOfTurn, guideOf } from '@/core/layers'
import type { Point } from '@/core/path'
import { sweptOutline, wobble } from '@/core/solid'
import { useSession } from '@/store/session'
import type { OverFrame } from './stage-view'
import { TurnHandles, turnOnStage } from './turn-handles'

/** A wobble of less than this is not drawn, px. */
const MIN_WOBBLE = 0.5

/**
 * Guides for the selected model: the area it passes through as it turns, the guide that must hold it, the way of its
 * centre if it wobbles, and its pivot and axis.
 */
export function TurnView(props: OverFrame) {
  const { loop, frame, scale } = props
  const selection = useSession((session) => session.selection)
  const [id] = selection
  const place = selection.length === 1 && id !== undefined ? findPlace(loop, id) : undefined
  const shown = place && turnOnStage(loop, place.layer, place.parents, frame)
  if (!id || !shown) return null
  const { model, values, turn, camera, width, height, onStage } = shown
  const guide = guideOf(values)
  const text = (points: readonly Point[]) =>
    points
      .map(onStage)
      .map(({ x, y }) => `${x.toFixed(2)},${y.toFixed(2)}`)
      .join(' ')
  const outline = sweptOutline(model.hull, turn, camera, width, height)
  const left = guide.marginX
  const top = guide.marginY
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
    <>
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
        {way.px >= MIN_WOBBLE && (
          <polygon
            points={text(way.path)}
            fill="none"
            className="stroke-error"
            strokeWidth={1.5 * px}
            data-testid="wobble-path"
          />
        )}
      </g>
      <TurnHandles key={id} {...props} id={id} />
    </>
  )
}
