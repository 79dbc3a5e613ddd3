'use client'

import { ChevronDown, RotateCcw } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import { curveAt, isStraight, STRAIGHT } from '@/core/effects'
import { type CurveProperty, curveNumbers, curveOf, MAX_CURVE_POINTS, MIN_POINT_GAP } from '@/core/layers'
import { type Histogram, histogramBehind, openHistograms } from '@/store/behind'
import { useOpenLoop } from '@/store/document'
import { useStillFrame } from '@/store/session'
import { IconButton } from '../../parts'
import { startDrag } from '../../parts/start-drag'

const SIZE = 160
/** A press so near to a point takes hold of it, px. */
const NEAR = 12
const STEPS = 64
/** The histogram is counted anew after this much time without a change, ms. */
const QUIET_MS = 300

interface CurveFieldProps {
  readonly property: CurveProperty
  readonly name: string
  readonly layerId: string
  readonly value: readonly number[]
  readonly onChange: (value: readonly number[]) => void
}

type Point = readonly [x: number, y: number]

/** The histogram of what lies behind a layer, counted again when the loop has been left alone for a while. */
function useHistogram(layerId: string): Histogram | null {
  const loop = useOpenLoop()
  const frame = useStillFrame()
  const [histogram, setHistogram] = useState<Histogram | null>(null)
  useEffect(openHistograms, [])
  useEffect(() => {
    if (!loop) return
    let current = true
    const waiting = setTimeout(() => {
      histogramBehind(loop, layerId, frame).then(
        (counted) => current && setHistogram(counted),
        // The stage says what could not be drawn.
        () => current && setHistogram(null),
      )
    }, QUIET_MS)
    return () => {
      current = false
      clearTimeout(waiting)
    }
  }, [loop, layerId, frame])
  return histogram
}

const COLOURS: Readonly<Record<string, string>> = { red: '#e0604f', green: '#58a873', blue: '#5b8fd6' }

const percent = (share = 0): string => `${Math.round(100 * share)} %`

/** A curve over the histogram of what it changes: press for a point, drag it, press it twice or press Delete to take it away. */
export function CurveField({ property, name, layerId, value, onChange }: CurveFieldProps) {
  const points = curveOf(value)
  const histogram = useHistogram(layerId)
  const surface = useRef<SVGSVGElement>(null)
  const [chosen, setChosen] = useState(0)
  const bars = histogram?.[name as keyof Histogram] ?? []
  const colour = COLOURS[name] ?? 'var(--color-accent)'

  const shareOf = (event: { readonly clientX: number; readonly clientY: number }): Point => {
    const rect = surface.current?.getBoundingClientRect() ?? new DOMRect(0, 0, SIZE, SIZE)
    const bounded = (share: number) => Math.min(1, Math.max(0, share))
    return [bounded((event.clientX - rect.left) / rect.width), bounded(1 - (event.clientY - rect.top) / rect.height)]
  }
  /** The points with one of them elsewhere, between its neighbours. */
  const moved = (all: readonly Point[], index: number, [x, y]: Point): readonly Point[] => {
    const before = all[index - 1]?.[0]
    const after = all[index + 1]?.[0]
    const least = before === undefined ? 0 : before + MIN_POINT_GAP
    const most = after === undefined ? 1 : after - MIN_POINT_GAP
    const place: Point = [Number(Math.min(most, Math.max(least, x)).toFixed(4)), Number(y.toFixed(4))]
    return all.map((point, i) => (i === index ? place : point))
  }
  const without = (index: number) =>
    points.length > 2 && onChange(curveNumbers(points.filter((_, i) => i !== index) as readonly Point[]))
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return
    const at = shareOf(event)
    const away = points.map(([x, y]) => Math.hypot((x - at[0]) * SIZE, (y - at[1]) * SIZE))
    let index = away.indexOf(Math.min(...away))
    let all: readonly Point[] = points
    if ((away[index] as number) > NEAR) {
      if (points.length >= MAX_CURVE_POINTS) return
      const next = points.findIndex(([x]) => x > at[0])
      index = next < 0 ? points.length : next
      all = [...points.slice(0, index), at, ...points.slice(index)]
    }
    setChosen(index)
    startDrag(event, { onMove: (pointer) => onChange(curveNumbers(moved(all, index, shareOf(pointer)))) })
    onChange(curveNumbers(moved(all, index, all[index] as Point)))
  }
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = event.shiftKey ? 0.1 : 0.01
    const by: Partial<Record<string, Point>> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    }
    const [dx, dy] = by[event.key] ?? [0, 0]
    const [x, y] = points[chosen] ?? [0, 0]
    if (event.key === 'Delete' || event.key === 'Backspace') without(chosen)
    else if (event.key === '+') setChosen((chosen + 1) % points.length)
    else if (dx !== 0 || dy !== 0)
      onChange(curveNumbers(moved(points, chosen, [x + dx, Math.min(1, Math.max(0, y + dy))])))
    else return
    event.preventDefault()
    event.stopPropagation()
  }
  const at = (share: number) => `${(share * SIZE).toFixed(1)},${((1 - curveAt(points, share)) * SIZE).toFixed(1)}`
  return (
    <details className="group" open={name === 'all' || !isStraight(points) || undefined}>
      <summary className="dim mb-1 flex h-6 cursor-pointer list-none items-center gap-1">
        <ChevronDown size={12} aria-hidden="true" className="group-open:rotate-180" />
        <span className="flex-1">{property.label}</span>
        <IconButton
          icon={RotateCcw}
          label={`Straight again: ${property.label}`}
          disabled={isStraight(points)}
          onClick={(event) => {
            event.preventDefault()
            onChange(curveNumbers(STRAIGHT))
          }}
        />
      </summary>
      <div
        role="slider"
        tabIndex={0}
        className="hairline touch-none rounded-field border bg-base-200"
        aria-label={`Curve of ${property.label}: arrows move the chosen point, + chooses the next, Delete takes it away`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(100 * (points[chosen]?.[1] ?? 0))}
        aria-valuetext={`point ${chosen + 1} of ${points.length}: ${percent(points[chosen]?.[0])} becomes ${percent(points[chosen]?.[1])}`}
        onPointerDown={onPointerDown}
        onDoubleClick={() => without(chosen)}
        onKeyDown={onKeyDown}
      >
        <svg
          ref={surface}
          viewBox={`0 0 ${SIZE} ${SIZE}`}
          className="block aspect-square w-full overflow-visible"
          aria-hidden="true"
        >
          {bars.map((share, i) => (
            <rect
              key={i}
              x={(i * SIZE) / bars.length}
              y={SIZE * (1 - 0.9 * share)}
              width={SIZE / bars.length}
              height={SIZE * 0.9 * share}
              fill={colour}
              opacity={0.22}
            />
          ))}
          {[0.25, 0.5, 0.75].map((share) => (
            <path
              key={share}
              d={`M${share * SIZE} 0V${SIZE}M0 ${share * SIZE}H${SIZE}`}
              className="stroke-base-content/10"
              fill="none"
            />
          ))}
          <path d={`M0 ${SIZE}L${SIZE} 0`} className="stroke-base-content/20" strokeDasharray="3 3" fill="none" />
          <polyline
            points={Array.from({ length: STEPS + 1 }, (_, i) => at(i / STEPS)).join(' ')}
            fill="none"
            stroke={colour}
            strokeWidth={1.5}
          />
          {points.map(([x, y], i) => (
            <circle
              key={i}
              cx={x * SIZE}
              cy={(1 - y) * SIZE}
              r={i === chosen ? 4.5 : 3.5}
              className={i === chosen ? 'fill-primary' : 'fill-base-100'}
              stroke={colour}
              strokeWidth={1.5}
            />
          ))}
        </svg>
      </div>
    </details>
  )
}
