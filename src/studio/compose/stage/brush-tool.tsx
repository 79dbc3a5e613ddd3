'use client'

import { useState } from 'react'
import { changeLayer, type Layer } from '@/core/document'
import { setValue } from '@/core/edit'
import { type BrushStroke, thinnedStroke } from '@/core/effects'
import { layerKind } from '@/core/layers'
import { invert, type Point, scaleOf, transformPoint } from '@/core/path'
import { changeLoop } from '@/store/document'
import { useSessionParts } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import { layerOnStage } from './stage-drag'
import type { OverFrame } from './stage-view'

/** Presses are taken this far around the frame, px of it. */
const FAR = 100_000
/** How far a stroke that is kept may be from what was drawn, px of the screen. */
const SMOOTH_PX = 0.7

/** The property of a layer that holds strokes; null where it has none. */
const strokesOf = ({ kind }: Layer): string | null =>
  Object.entries(layerKind(kind).properties).find(([, { type }]) => type === 'strokes')?.[0] ?? null

type Sample = Point & { readonly pressure: number }

/** Paints strokes on the selected layer; the pressure of a pen makes them wider, Alt takes away. */
export function BrushTool({ loop, frame, scale, pointOf }: OverFrame) {
  const { selection, brush } = useSessionParts('selection', 'brush')
  const [drawn, setDrawn] = useState<readonly Sample[]>([])
  const [pointer, setPointer] = useState<Point | null>(null)
  const [id] = selection
  const on = id === undefined ? null : layerOnStage(loop, id, frame)
  const name = on && strokesOf(on.layer)
  const back = on && invert(on.matrix)
  if (!on || !back || !name || on.layer.locked) return null
  const zoom = scaleOf(on.matrix) || 1
  const { size, softness, strength } = brush
  const radius = (size / 2) * zoom

  const begin = (event: React.PointerEvent) => {
    if (event.button !== 0) return
    const erases = brush.erases || event.altKey
    // A mouse presses always alike.
    const sampleOf = (of: PointerEvent | React.PointerEvent): Sample => ({
      ...pointOf(of as React.PointerEvent),
      pressure: of.pointerType === 'pen' ? of.pressure : 1,
    })
    const samples = [sampleOf(event)]
    setDrawn([...samples])
    startDrag(event, {
      onMove: (moved) => {
        const all = moved.getCoalescedEvents?.() ?? []
        samples.push(...(all.length > 0 ? all : [moved]).map(sampleOf))
        setDrawn([...samples])
        setPointer(samples.at(-1) ?? null)
      },
      onEnd: (cancelled) => {
        setDrawn([])
        if (cancelled) return
        const flat = samples.flatMap((sample) => {
          const { x, y } = transformPoint(back, sample)
          return [x, y, sample.pressure]
        })
        const points = thinnedStroke(flat, SMOOTH_PX / scale / zoom)
        const stroke: BrushStroke = { size, softness, strength, ...(erases && { erases: true as const }), points }
        changeLoop((current) =>
          changeLayer(current, on.layer.id, (each) =>
            setValue(each, name, [...(each.values[name] as readonly BrushStroke[]), stroke], frame, current.length),
          ),
        )
      },
    })
  }
  const px = 1 / scale
  return (
    <g
      style={{ cursor: 'none' }}
      onPointerDown={begin}
      onPointerMove={(event) => setPointer(pointOf(event))}
      onPointerLeave={() => setPointer(null)}
    >
      <rect x={-FAR} y={-FAR} width={2 * FAR} height={2 * FAR} fill="transparent" />
      {drawn.length > 0 && (
        <polyline
          points={[...drawn, drawn.at(-1) as Sample].map(({ x, y }) => `${x},${y}`).join(' ')}
          fill="none"
          className="stroke-primary"
          strokeWidth={2 * radius * (1 - softness / 2)}
          strokeLinecap="round"
          strokeLinejoin="round"
          opacity={0.35}
        />
      )}
      {pointer && (
        <>
          <circle
            cx={pointer.x}
            cy={pointer.y}
            r={radius}
            fill="none"
            className="stroke-base-100"
            strokeWidth={3 * px}
          />
          <circle cx={pointer.x} cy={pointer.y} r={radius} fill="none" className="stroke-primary" strokeWidth={px} />
          <circle
            cx={pointer.x}
            cy={pointer.y}
            r={radius * (1 - softness)}
            fill="none"
            className="stroke-primary"
            strokeWidth={px}
            strokeDasharray={`${3 * px} ${3 * px}`}
          />
        </>
      )}
    </g>
  )
}
