'use client'

import { memo, useCallback, useRef, useState } from 'react'
import { keyOnCurve } from '@/core/edit'
import { amountsOf, movingProperty } from '@/core/layers'
import { cyclePosition, type Motion, type MovingValue, motionValue, periodFrames, travel } from '@/core/motion'
import { setSession, useSession } from '@/store/session'
import { fieldUnitText, showNumber, useRoom } from '../../parts'
import { useFollowTime } from '../../playback'
import { changeMotion, type MotionOf } from '../motion/motion-of'
import { type CurveGeometry, GHOST, PAD, SPEED_HEIGHT, useCurve } from './curve-geometry'
import { BendHandles, CurveKeys, EaseHandles, StretchBracket } from './curve-keys'

/** One cycle unrolled with ghosts of what comes before and after, so that both joins lie inside the picture. */
export const MotionCurve = memo(function MotionCurve(of: MotionOf) {
  const { clock, motion, property } = of
  const { box, width, height } = useRoom()
  const geometry = useCurve(motion, property, clock, width, height)
  const picked = useSession((session) => session.keys)
  const chosen = picked.filter((i) => i < motion.keys.length)
  const marquee = useRef<{ x: number; y: number } | null>(null)
  const [area, setArea] = useState<{ x: number; y: number; width: number; height: number } | null>(null)
  const { x, y, floor } = geometry

  const pointOf = (event: React.PointerEvent | React.MouseEvent) => {
    const rect = event.currentTarget.getBoundingClientRect()
    return { x: event.clientX - rect.left, y: event.clientY - rect.top }
  }
  const onPointerDown = (event: React.PointerEvent) => {
    if (event.button !== 0) return
    event.currentTarget.setPointerCapture(event.pointerId)
    marquee.current = pointOf(event)
    if (!event.shiftKey) setSession({ keys: [] })
  }
  const onPointerMove = (event: React.PointerEvent) => {
    const from = marquee.current
    if (!from) return
    const to = pointOf(event)
    if (Math.hypot(to.x - from.x, to.y - from.y) < 3 && !area) return
    const next = {
      x: Math.min(from.x, to.x),
      y: Math.min(from.y, to.y),
      width: Math.abs(to.x - from.x),
      height: Math.abs(to.y - from.y),
    }
    setArea(next)
    const inside = motion.keys.flatMap((key, i) => {
      const at = {
        x: x(key.at),
        y: y(geometry.heightAt(key.at === 1 && motion.after !== 'repeat' ? 1 - 1e-9 : key.at)),
      }
      const within = at.x >= next.x && at.x <= next.x + next.width && at.y >= next.y && at.y <= next.y + next.height
      return within ? [i] : []
    })
    setSession({ keys: inside })
  }
  const onPointerUp = () => {
    marquee.current = null
    setArea(null)
  }
  /** A double press on the curve sets a key there; the curve stays as it is. */
  const onDoubleClick = (event: React.MouseEvent) => {
    const period = periodFrames(motion.period, clock.length)
    const q = geometry.qOf(pointOf(event).x)
    const place = Math.round((q - Math.floor(q)) * period) / period
    const { mix } = movingProperty(property, {})
    const value = motionValue(
      { ...motion, after: motion.after === 'accumulate' ? 'once' : motion.after },
      (place - motion.phase) * period,
      clock.length,
      mix,
    )
    const next = keyOnCurve(motion, place, value as MovingValue, clock.length)
    changeMotion(of, () => next)
    const index = next.keys.findIndex((key) => key.at === place)
    if (index >= 0) setSession({ keys: [index] })
  }
  const drawn = width > 80 && height > 80
  return (
    <div ref={box} className="relative min-h-0 min-w-0 overflow-hidden" data-testid="motion-curve">
      {drawn && (
        <svg
          width={width}
          height={height}
          className="absolute inset-0 touch-none select-none"
          role="group"
          aria-label={`One cycle of ${property.label}, with what comes before and after`}
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onDoubleClick={onDoubleClick}
        >
          <CurvePicture of={of} geometry={geometry} width={width} />
          <EaseHandles of={of} geometry={geometry} chosen={chosen} />
          <CurveKeys of={of} geometry={geometry} chosen={chosen} />
          <BendHandles of={of} geometry={geometry} />
          <StretchBracket of={of} geometry={geometry} chosen={chosen} />
          {area && <rect {...area} className="fill-accent/10 stroke-accent" pointerEvents="none" />}
        </svg>
      )}
      {drawn && (
        <PlayheadLine
          motion={motion}
          length={clock.length}
          left={x(0)}
          width={x(1) - x(0)}
          top={PAD.top - 6}
          bottom={floor}
        />
      )}
    </div>
  )
})

/** The curve itself: one cycle, its ghosts, the seam and the speed under it. */
function CurvePicture({ of, geometry, width }: { of: MotionOf; geometry: CurveGeometry; width: number }) {
  const { motion, property } = of
  const { x, y, floor, qs, heights, speeds, low, high, heightAt } = geometry
  const line = (from: number, to: number) =>
    qs
      .flatMap((q, i) =>
        q >= from - 1e-9 && q <= to + 1e-9 ? [`${x(q).toFixed(1)},${y(heights[i] as number).toFixed(1)}`] : [],
      )
      .join(' ')
  const fastest = Math.max(...speeds, 1e-12)
  const speedPath = `M${x(-GHOST)} ${floor}${speeds.map((s, i) => `L${x(qs[i] as number).toFixed(1)} ${(floor - (s / fastest) * SPEED_HEIGHT).toFixed(1)}`).join('')}L${x(1 + GHOST)} ${floor}Z`
  const numeric = typeof motion.keys[0]?.value === 'number'
  const { unit } = amountsOf(property)
  const words = fieldUnitText(unit).length > 2
  const axis = (h: number) =>
    numeric ? `${showNumber(Number(h.toPrecision(4)), unit)}${words ? '' : fieldUnitText(unit)}` : ''
  const carried = numeric ? travel(motion as Motion<number>) : 0
  /** Where the loop's own seam lies in the cycle. */
  const seam = motion.phase % 1
  return (
    <g>
      <rect x={x(0)} y={PAD.top} width={x(1) - x(0)} height={floor - PAD.top} className="fill-base-200" />
      {[low, high].map((h, i) => (
        <g key={i}>
          <line x1={PAD.left} x2={width - PAD.right} y1={y(h)} y2={y(h)} className="stroke-base-300/60" />
          <text
            x={PAD.left - 5}
            y={y(h) + (i === 0 ? 0 : 8)}
            textAnchor="end"
            className="fill-base-content/80 font-mono text-[10px]"
          >
            {axis(h)}
          </text>
        </g>
      ))}
      {[0, 1].map((q) => (
        <line key={q} x1={x(q)} x2={x(q)} y1={PAD.top - 6} y2={floor} className="stroke-base-content/45" />
      ))}
      {[seam, seam + 1, seam - 1]
        .filter((q) => q >= -GHOST && q <= 1 + GHOST)
        .map((q) => (
          <g key={q}>
            <line x1={x(q)} x2={x(q)} y1={PAD.top - 4} y2={floor} className="stroke-accent" strokeDasharray="2 3" />
            <path d={`M${x(q)} ${PAD.top}l4 -7h-8z`} className="fill-accent" />
          </g>
        ))}
      <text x={x(-GHOST) + 4} y={floor - SPEED_HEIGHT - 3} className="fill-base-content/80 text-[10px]">
        speed
      </text>
      <path d={speedPath} className="fill-accent/25 stroke-accent/70" />
      {[
        [-GHOST, 0],
        [1, 1 + GHOST],
      ].map(([from = 0, to = 0]) => (
        <polyline
          key={from}
          points={line(from, to)}
          fill="none"
          className="stroke-primary/55"
          strokeWidth={1.5}
          strokeDasharray="5 4"
        />
      ))}
      <polyline points={line(0, 1)} fill="none" className="stroke-primary" strokeWidth={2} />
      {motion.keys.length <= 40 &&
        motion.keys.flatMap((key, index) =>
          [key.at - 1, key.at + 1]
            .filter((q) => q >= -GHOST && q <= 1 + GHOST && motion.after !== 'once')
            .map((q) => (
              <circle
                key={`${index} ${q}`}
                cx={x(q)}
                cy={y(heightAt(q))}
                r={3}
                fill="none"
                className="stroke-primary/70"
              />
            )),
        )}
      {motion.after === 'accumulate' && numeric && (
        <text x={x(1) - 5} y={PAD.top + 10} textAnchor="end" className="fill-base-content/80 font-mono text-[10px]">
          {carriedWords(
            carried,
            unit === 'cycles' ? null : `${axis(Math.abs(carried))}${words ? ` ${fieldUnitText(unit)}` : ''}`,
          )}
        </text>
      )}
    </g>
  )
}

interface PlayheadLineProps {
  readonly motion: Motion
  readonly length: number
  /** Where the cycle begins, and how wide it is, px. */
  readonly left: number
  readonly width: number
  readonly top: number
  readonly bottom: number
}

/** The playhead in the cycle: a layer of its own, so that playing does not draw the curve anew. */
function PlayheadLine({ motion, length, left, width, top, bottom }: PlayheadLineProps) {
  const line = useRef<HTMLDivElement>(null)
  const at = useCallback(
    (frame: number) => {
      const { q, share } = cyclePosition(motion, frame, length)
      const place = motion.after === 'once' ? Math.min(1, Math.max(0, q)) : share
      return `translateX(${left + place * width}px)`
    },
    [motion, length, left, width],
  )
  useFollowTime(line, at)
  return (
    <div
      ref={line}
      aria-hidden="true"
      className="pointer-events-none absolute left-0 w-px bg-base-content will-change-transform"
      style={{ top, height: bottom - top }}
    />
  )
}

/** Words for the amount that a cycle adds; for something that runs by itself, how often it does. */
function carriedWords(carried: number, amount: string | null): string {
  if (amount !== null) return `${carried < 0 ? '−' : '+'}${amount} each cycle`
  const times = Math.abs(Number(carried.toFixed(3)))
  return `runs ${times === 1 ? 'once' : `${times} times`}${carried < 0 ? ' backwards' : ''} each cycle`
}
