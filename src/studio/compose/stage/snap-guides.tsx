'use client'

import type { Loop } from '@/core/document'
import { distancesToFrame, type SnapGuide } from '@/core/edit'
import type { Box } from '@/core/path'

interface SnapGuidesProps {
  readonly loop: Loop
  readonly guides: readonly SnapGuide[]
  /** The box that is being moved or drawn; its distances to the frame are shown. */
  readonly box: Box | null
  readonly scale: number
}

/** Lines along which things lie together, and distances, while something is being dragged. */
export function SnapGuides({ loop, guides, box, scale }: SnapGuidesProps) {
  const px = 1 / scale
  const label = (x: number, y: number, text: string, key: string) => (
    <g key={key}>
      <rect
        x={x - (text.length * 3.6 + 5) * px}
        y={y - 8 * px}
        width={(text.length * 7.2 + 10) * px}
        height={16 * px}
        rx={3 * px}
        className="fill-base-100/85"
      />
      <text x={x} y={y + 4 * px} textAnchor="middle" fontSize={11 * px} className="fill-base-content font-mono">
        {text}
      </text>
    </g>
  )
  const distance = box && distancesToFrame(box, loop.width, loop.height)
  const middleX = box ? box.x + box.width / 2 : 0
  const middleY = box ? box.y + box.height / 2 : 0
  const show = (value: number) => String(Math.round(value * 10) / 10)
  return (
    <g pointerEvents="none">
      {guides.map(({ axis, at, from, to, distance: gap }) => (
        <g key={`${axis}${at}`}>
          <line
            {...(axis === 'x' ? { x1: at, x2: at, y1: from, y2: to } : { y1: at, y2: at, x1: from, x2: to })}
            className="stroke-primary"
            strokeWidth={px}
            strokeDasharray={`${4 * px} ${3 * px}`}
          />
          {gap > 0 &&
            label(axis === 'x' ? at : (from + to) / 2, axis === 'x' ? (from + to) / 2 : at, show(gap), `gap ${axis}`)}
        </g>
      ))}
      {box && distance && (
        <g className="stroke-base-content/50" strokeWidth={px}>
          {distance.left > 0 && <line x1={0} x2={box.x} y1={middleY} y2={middleY} />}
          {distance.right > 0 && <line x1={box.x + box.width} x2={loop.width} y1={middleY} y2={middleY} />}
          {distance.top > 0 && <line y1={0} y2={box.y} x1={middleX} x2={middleX} />}
          {distance.bottom > 0 && <line y1={box.y + box.height} y2={loop.height} x1={middleX} x2={middleX} />}
          <g stroke="none">
            {distance.left > 0 && label(box.x / 2, middleY, show(distance.left), 'left')}
            {distance.right > 0 && label((box.x + box.width + loop.width) / 2, middleY, show(distance.right), 'right')}
            {distance.top > 0 && label(middleX, box.y / 2, show(distance.top), 'top')}
            {distance.bottom > 0 &&
              label(middleX, (box.y + box.height + loop.height) / 2, show(distance.bottom), 'bottom')}
          </g>
        </g>
      )}
    </g>
  )
}
