'use client'

import type { Loop } from '@/core/document'
import { localBounds } from '@/core/edit'
import { boxCorners, type Point, transformPoint } from '@/core/path'
import { PIVOT_TOOL, useSession } from '@/store/session'
import { layerOnStage, type ScaleHandle, type StageDrag } from './stage-drag'

interface SelectionHandlesProps {
  readonly loop: Loop
  readonly frame: number
  /** px of the screen per px of the frame */
  readonly scale: number
  readonly onBegin: (event: React.PointerEvent, drag: StageDrag) => void
}

const HANDLES: readonly ScaleHandle[] = [
  [-1, -1],
  [0, -1],
  [1, -1],
  [1, 0],
  [1, 1],
  [0, 1],
  [-1, 1],
  [-1, 0],
]

/** Outlines of the selected layers; for a single one also handles to scale and turn it, and its pivot. */
export function SelectionHandles({ loop, frame, scale, onBegin }: SelectionHandlesProps) {
  const selection = useSession((session) => session.selection)
  // A pivot may lie where a handle is: a hand turns about its end.
  const placing = useSession((session) => session.tool === PIVOT_TOOL)
  const px = 1 / scale
  return (
    <g>
      {selection.map((id) => {
        const on = layerOnStage(loop, id, frame)
        const box = on && localBounds(on.layer, frame, loop.length)
        if (!on || !box) return null
        const to = (point: Point) => transformPoint(on.matrix, point)
        const corners = boxCorners(box).map(to)
        const outline = corners.map(({ x, y }) => `${x},${y}`).join(' ')
        const single = selection.length === 1 && !on.layer.locked
        const at = ([hx, hy]: ScaleHandle) =>
          to({ x: box.x + ((hx + 1) / 2) * box.width, y: box.y + ((hy + 1) / 2) * box.height })
        const top = at([0, -1])
        const centre = to({ x: box.x + box.width / 2, y: box.y + box.height / 2 })
        const away = Math.hypot(top.x - centre.x, top.y - centre.y) || 1
        const turn = {
          x: top.x + ((top.x - centre.x) / away) * 22 * px,
          y: top.y + ((top.y - centre.y) / away) * 22 * px,
        }
        const pivot = to({ x: on.values.pivotX, y: on.values.pivotY })
        return (
          <g key={id} pointerEvents={placing ? 'none' : undefined}>
            <polygon points={outline} fill="none" className="stroke-base-100/70" strokeWidth={3 * px} />
            <polygon points={outline} fill="none" className="stroke-accent" strokeWidth={1.25 * px} />
            {single && (
              <>
                <line x1={top.x} y1={top.y} x2={turn.x} y2={turn.y} className="stroke-accent" strokeWidth={px} />
                <circle
                  data-handle="turn"
                  cx={turn.x}
                  cy={turn.y}
                  r={5 * px}
                  className="cursor-grab fill-base-100 stroke-accent"
                  strokeWidth={1.5 * px}
                  onPointerDown={(event) => onBegin(event, { type: 'turn', id, from: turn })}
                />
                {HANDLES.map((handle) => {
                  const { x, y } = at(handle)
                  return (
                    <rect
                      key={handle.join()}
                      data-handle={`scale ${handle.join(' ')}`}
                      x={x - 4 * px}
                      y={y - 4 * px}
                      width={8 * px}
                      height={8 * px}
                      className="cursor-pointer fill-base-100 stroke-accent"
                      strokeWidth={1.5 * px}
                      onPointerDown={(event) => onBegin(event, { type: 'scale', id, handle, box })}
                    />
                  )
                })}
                <g data-handle="pivot" className="stroke-primary" strokeWidth={1.5 * px} pointerEvents="none">
                  <circle cx={pivot.x} cy={pivot.y} r={6 * px} className="fill-base-100/60" />
                  <path d={`M${pivot.x - 9 * px} ${pivot.y}h${18 * px}M${pivot.x} ${pivot.y - 9 * px}v${18 * px}`} />
                </g>
              </>
            )}
          </g>
        )
      })}
    </g>
  )
}
