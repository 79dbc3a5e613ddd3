'use client'

import type { ShownRegion } from './viewport'

/** A line across all compared pictures, at a px of them. */
export interface CompareGuide {
  readonly axis: 'x' | 'y'
  readonly at: number
}

interface GuidesProps {
  readonly view: ShownRegion
  readonly width: number
  readonly height: number
  readonly size: { readonly width: number; readonly height: number }
  /** px of the picture from line to line; null for no grid. */
  readonly grid: number | null
  readonly guides: readonly CompareGuide[]
  readonly onChange: (guides: readonly CompareGuide[]) => void
}

/** Grid lines that would lie closer than this are left out, px of the screen. */
const CLOSEST = 4

/** A grid, and guides that are dragged: at the same place in every picture, so that what moves can be measured. */
export function Guides({ view, width, height, size, grid, guides, onChange }: GuidesProps) {
  const screen = (axis: CompareGuide['axis'], at: number) =>
    axis === 'x' ? width / 2 + (at - view.x) * view.zoom : height / 2 + (at - view.y) * view.zoom
  const step = grid === null ? null : grid * Math.max(1, 2 ** Math.ceil(Math.log2(CLOSEST / (grid * view.zoom))))
  const lines = (axis: CompareGuide['axis']) => {
    const side = axis === 'x' ? size.width : size.height
    return step === null ? [] : Array.from({ length: Math.floor(side / step) + 1 }, (_, i) => screen(axis, i * step))
  }
  const set = (i: number, at: number) => {
    const { axis } = guides[i] as CompareGuide
    const kept = Math.min(axis === 'x' ? size.width : size.height, Math.max(0, Math.round(at)))
    onChange(guides.map((each, k) => (k === i ? { ...each, at: kept } : each)))
  }
  return (
    <>
      <svg className="pointer-events-none absolute inset-0" width={width} height={height} aria-hidden="true">
        {lines('x').map((x) => (
          <line key={`x${x}`} x1={x} x2={x} y1={0} y2={height} className="stroke-base-content/25" />
        ))}
        {lines('y').map((y) => (
          <line key={`y${y}`} y1={y} y2={y} x1={0} x2={width} className="stroke-base-content/25" />
        ))}
      </svg>
      {guides.map(({ axis, at }, i) => (
        <div
          key={`${axis} ${i}`}
          role="slider"
          tabIndex={0}
          aria-label={axis === 'x' ? 'Upright guide' : 'Level guide'}
          aria-orientation={axis === 'x' ? 'horizontal' : 'vertical'}
          aria-valuenow={at}
          aria-valuemin={0}
          aria-valuemax={axis === 'x' ? size.width : size.height}
          title={`${at} px; drag it, Delete takes it away`}
          className={
            axis === 'x' ? 'absolute inset-y-0 w-2 cursor-ew-resize' : 'absolute inset-x-0 h-2 cursor-ns-resize'
          }
          style={axis === 'x' ? { left: screen('x', at) - 4 } : { top: screen('y', at) - 4 }}
          onPointerDown={(event) => {
            event.stopPropagation()
            event.currentTarget.setPointerCapture(event.pointerId)
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
            event.stopPropagation()
            const rect = event.currentTarget.parentElement?.getBoundingClientRect()
            if (!rect) return
            set(
              i,
              axis === 'x'
                ? view.x + (event.clientX - rect.left - width / 2) / view.zoom
                : view.y + (event.clientY - rect.top - height / 2) / view.zoom,
            )
          }}
          onKeyDown={(event) => {
            const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
            const gone = event.key === 'Delete' || event.key === 'Backspace'
            if (by === undefined && !gone) return
            event.preventDefault()
            event.stopPropagation()
            if (gone) onChange(guides.filter((_, k) => k !== i))
            else set(i, at + (by ?? 0) * (event.shiftKey ? 10 : 1))
          }}
        >
          <span
            className={
              axis === 'x'
                ? 'absolute inset-y-0 left-1 border-primary border-l'
                : 'absolute inset-x-0 top-1 border-primary border-t'
            }
          />
        </div>
      ))}
    </>
  )
}
