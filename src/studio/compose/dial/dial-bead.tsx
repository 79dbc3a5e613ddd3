'use client'

import { type RefObject, useRef } from 'react'
import { changeLayer } from '@/core/document'
import { changeKey } from '@/core/edit'
import { changeLoop } from '@/store/document'
import { setSession } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import { type Bead, beadPlace, frameAngle, frameAtPoint, onDial, pointerAt } from './dial-geometry'
import type { Lane } from './lanes'

interface BeadProps {
  readonly lane: Lane
  readonly bead: Bead
  readonly length: number
  readonly svg: RefObject<SVGSVGElement | null>
  readonly radius: number
}

/** A key on its ring. Dragged, it moves in its cycle, from frame to frame; with Alt held, freely. */
export function BeadMark({ lane, bead, length, svg, radius }: BeadProps) {
  const { layer, name, inner, outer } = lane
  const mark = useRef<SVGCircleElement>(null)
  const at = onDial((inner + outer) / 2, frameAngle(bead.frame, length))
  const place = (from: Bead, to: number) => {
    if (!name) return
    changeLoop((loop) =>
      changeLayer(loop, layer.id, (each) => {
        const own = each.motions[name]
        return own
          ? {
              ...each,
              motions: {
                ...each.motions,
                [name]: changeKey(own, bead.index, { at: beadPlace(own, from, to, length) }, length),
              },
            }
          : each
      }),
    )
  }
  /** Follows the pointer from the bead as it was taken hold of; the frame is counted on across the seam. */
  const follow = () => {
    let last = bead.frame
    return (event: PointerEvent) => {
      if (!svg.current) return
      const raw = frameAtPoint(pointerAt(svg.current, event), length)
      last = raw + length * Math.round((last - raw) / length)
      const to = event.altKey ? last : Math.round(last)
      place(bead, to)
      // The bead follows the pointer at once; the rest of the dial at its own pace.
      const now = onDial((inner + outer) / 2, frameAngle(to, length))
      mark.current?.setAttribute('cx', String(now.x))
      mark.current?.setAttribute('cy', String(now.y))
    }
  }
  return (
    <circle
      ref={mark}
      cx={at.x}
      cy={at.y}
      r={radius}
      className="cursor-grab fill-primary stroke-base-100 outline-offset-0 focus-visible:stroke-accent"
      strokeWidth={1.2}
      role="slider"
      tabIndex={bead.first ? 0 : -1}
      aria-label={`${layer.name}, ${lane.report?.property.label ?? name}, key ${bead.index + 1}`}
      aria-valuemin={0}
      aria-valuemax={length}
      aria-valuenow={Number(bead.frame.toFixed(2))}
      aria-valuetext={`frame ${Number(bead.frame.toFixed(2))}`}
      onPointerDown={(event) => {
        startDrag(event, { onMove: follow() })
        setSession({ selection: [layer.id], property: name })
      }}
      onKeyDown={(event) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key]
        if (!by || event.ctrlKey || event.altKey) return
        event.preventDefault()
        event.stopPropagation()
        place(bead, Math.round(bead.frame) + by)
      }}
    >
      <title>{`key ${bead.index + 1} at frame ${Number(bead.frame.toFixed(2))}`}</title>
    </circle>
  )
}
