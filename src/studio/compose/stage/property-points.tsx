'use client'

import { changeLayer } from '@/core/document'
import { setValue } from '@/core/edit'
import { layerKind, propertyType, type Values } from '@/core/layers'
import { invert, transformPoint } from '@/core/path'
import { changeLoop } from '@/store/document'
import { useSession } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import { layerOnStage } from './stage-drag'
import type { OverFrame } from './stage-view'

/** More points than this are too near to each other to be taken hold of. */
const MAX_POINTS = 240

/** The points of the selected layer's properties, such as those of its path, to be dragged; what moves is keyed by it. */
export function PropertyPoints({ loop, frame, scale, pointOf }: OverFrame) {
  const selection = useSession((session) => session.selection)
  const [id] = selection
  const on = selection.length === 1 && id !== undefined ? layerOnStage(loop, id, frame) : null
  const back = on && invert(on.matrix)
  if (!on || on.layer.locked || !back) return null
  const px = 1 / scale
  return (
    <g>
      {Object.entries(layerKind(on.layer.kind).properties).flatMap(([name, property]) => {
        const { points } = propertyType(property)
        if (!points || property.when?.(on.layer.values) === false) return []
        const value = (on.values as unknown as Values)[name] ?? null
        const all = points.of(value)
        if (all.length > MAX_POINTS) return []
        const place = (index: number) => (event: PointerEvent) => {
          const next = points.moved(value, index, transformPoint(back, pointOf(event)))
          changeLoop((current) =>
            changeLayer(current, on.layer.id, (each) => setValue(each, name, next, frame, current.length)),
          )
        }
        return all.map((point, i) => {
          const at = transformPoint(on.matrix, point)
          const anchor = point.handleOf === undefined ? undefined : all[point.handleOf]
          const from = anchor && transformPoint(on.matrix, anchor)
          return (
            // A point is told by its place in the value.
            <g key={`${name} ${i}`}>
              {from && (
                <line x1={from.x} y1={from.y} x2={at.x} y2={at.y} className="stroke-accent/60" strokeWidth={px} />
              )}
              <circle
                data-path-point={anchor ? 'handle' : 'end'}
                cx={at.x}
                cy={at.y}
                r={(anchor ? 3 : 4) * px}
                className={`cursor-move stroke-accent ${anchor ? 'fill-base-100' : 'fill-accent'}`}
                strokeWidth={1.25 * px}
                onPointerDown={(event) => startDrag(event, { live: true, onMove: place(i) })}
              />
            </g>
          )
        })
      })}
    </g>
  )
}
