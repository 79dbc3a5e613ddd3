'use client'

import { memo, useCallback, useMemo, useRef } from 'react'
import { colourDistance } from '@/core/colour'
import { movingProperty } from '@/core/layers'
import { changeKey } from '@/core/loop'
import { cyclePosition, type Motion, type MovingValue, motionValue, periodFrames, travel } from '@/core/motion'
import { beginGesture, endGesture } from '@/store/document'
import { showNumber, unitText, useRoom } from '../parts'
import { useFollowTime } from '../playback'
import { changeMotion, type MotionOf } from './motion-of'

/** Cycles shown before and after the one in the middle. */
const GHOST = 0.5
const SAMPLES = 320
const PAD = { left: 44, right: 10, top: 10, bottom: 4 }
const SPEED_HEIGHT = 34

/** A value as a height: numbers are themselves, colours their distance from the first key's. */
const heightOf = (value: MovingValue, first: MovingValue): number =>
  typeof value === 'number' ? value : colourDistance(String(first), value)

/** One cycle unrolled with ghosts of what comes before and after, so that both joins lie inside the picture. */
export const MotionCurve = memo(function MotionCurve(of: MotionOf) {
  const { clock, motion, property } = of
  const { box, width, height } = useRoom()
  const period = periodFrames(motion.period, clock.length)
  const curve = useMemo(() => {
    const { mix } = movingProperty(property, {})
    const first = motion.keys[0]?.value ?? 0
    const heightAt = (q: number) => heightOf(motionValue(motion, (q - motion.phase) * period, clock.length, mix), first)
    const qs = Array.from({ length: SAMPLES + 1 }, (_, i) => -GHOST + (i / SAMPLES) * (1 + 2 * GHOST))
    const heights = qs.map(heightAt)
    const speeds = heights.slice(1).map((h, i) => Math.abs(h - (heights[i] as number)))
    return { qs, heights, speeds, heightAt, low: Math.min(...heights), high: Math.max(...heights) }
  }, [motion, property, period, clock.length])

  const plot = {
    width: Math.max(1, width - PAD.left - PAD.right),
    height: Math.max(1, height - PAD.top - PAD.bottom - SPEED_HEIGHT - 14),
  }
  const range = curve.high - curve.low || 1
  const x = (q: number) => PAD.left + ((q + GHOST) / (1 + 2 * GHOST)) * plot.width
  const y = (h: number) => PAD.top + (1 - (h - curve.low) / range) * plot.height
  const line = (from: number, to: number) =>
    curve.qs
      .flatMap((q, i) =>
        q >= from - 1e-9 && q <= to + 1e-9 ? [`${x(q).toFixed(1)},${y(curve.heights[i] as number).toFixed(1)}`] : [],
      )
      .join(' ')
  const fastest = Math.max(...curve.speeds, 1e-12)
  const floor = height - PAD.bottom
  const speedPath = `M${x(-GHOST)} ${floor}${curve.speeds.map((s, i) => `L${x(curve.qs[i] as number).toFixed(1)} ${(floor - (s / fastest) * SPEED_HEIGHT).toFixed(1)}`).join('')}L${x(1 + GHOST)} ${floor}Z`
  const numeric = property.type === 'number'
  const unit = numeric ? property.unit : ''
  const axis = (h: number) => (numeric ? `${showNumber(h, unit)}${unitText(unit)}` : '')
  /** Where the loop's own seam lies in the cycle. */
  const seam = motion.phase % 1

  return (
    <div ref={box} className="relative min-h-0 min-w-0 overflow-hidden" data-testid="motion-curve">
      {width > 80 && height > 80 && (
        <svg
          width={width}
          height={height}
          className="absolute inset-0 touch-none select-none"
          role="group"
          aria-label={`One cycle of ${property.label}, with what comes before and after`}
        >
          <rect x={x(0)} y={PAD.top} width={x(1) - x(0)} height={floor - PAD.top} className="fill-base-200" />
          {[curve.low, curve.high].map((h, i) => (
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
          <polyline
            points={line(-GHOST, 0)}
            fill="none"
            className="stroke-primary/55"
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
          <polyline
            points={line(1, 1 + GHOST)}
            fill="none"
            className="stroke-primary/55"
            strokeWidth={1.5}
            strokeDasharray="5 4"
          />
          <polyline points={line(0, 1)} fill="none" className="stroke-primary" strokeWidth={2} />
          {motion.keys.map((key, index) => (
            <CurveBead
              key={index}
              of={of}
              index={index}
              cx={x(key.at)}
              cy={y(curve.heightAt(key.at === 1 && motion.after !== 'repeat' ? 1 - 1e-9 : key.at))}
              perFrame={(x(1) - x(0)) / period}
              perValue={numeric ? plot.height / range : 0}
            />
          ))}
          {motion.keys.flatMap((key, index) =>
            [key.at - 1, key.at + 1]
              .filter((q) => q >= -GHOST && q <= 1 + GHOST && motion.after !== 'once')
              .map((q) => (
                <circle
                  key={`${index} ${q}`}
                  cx={x(q)}
                  cy={y(curve.heightAt(q))}
                  r={3}
                  fill="none"
                  className="stroke-primary/70"
                />
              )),
          )}
          {motion.after === 'accumulate' && numeric && (
            <text x={x(1) - 5} y={PAD.top + 10} textAnchor="end" className="fill-base-content/80 font-mono text-[10px]">
              {`+${axis(travel(motion as Motion<number>))} a cycle`}
            </text>
          )}
        </svg>
      )}
      {width > 80 && height > 80 && (
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

interface CurveBeadProps {
  readonly of: MotionOf
  readonly index: number
  readonly cx: number
  readonly cy: number
  /** px of the screen per frame, and per unit of the value */
  readonly perFrame: number
  readonly perValue: number
}

/** A key on the curve: dragged in time from frame to frame (freely with Alt) and in value; arrow keys do the same. */
function CurveBead({ of, index, cx, cy, perFrame, perValue }: CurveBeadProps) {
  const { clock, motion, property } = of
  const drag = useRef<{ x: number; y: number; motion: Motion; moved: boolean } | null>(null)
  const key = motion.keys[index]
  if (!key) return null
  const period = periodFrames(motion.period, clock.length)
  const move = (start: Motion, frames: number, value: number, free: boolean) => {
    const from = start.keys[index]
    if (!from) return
    const frame = from.at * period + frames
    const at = (free ? frame : Math.round(frame)) / period
    changeMotion(of, (_, length) =>
      changeKey(
        start,
        index,
        {
          at: frames === 0 ? from.at : at,
          ...(typeof from.value === 'number' ? { value: Number((from.value + value).toFixed(4)) } : {}),
        },
        length,
      ),
    )
  }
  return (
    <circle
      cx={cx}
      cy={cy}
      r={5.5}
      className="cursor-grab fill-primary stroke-base-100"
      strokeWidth={1.5}
      role="slider"
      tabIndex={0}
      aria-label={`${property.label}, key ${index + 1} of the curve`}
      aria-valuenow={Number((key.at * period).toFixed(2))}
      aria-valuemin={0}
      aria-valuemax={Number(period.toFixed(2))}
      aria-valuetext={`frame ${Number((key.at * period).toFixed(2))}, ${key.value}`}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId)
        beginGesture()
        drag.current = { x: event.clientX, y: event.clientY, motion, moved: false }
      }}
      onPointerMove={(event) => {
        const start = drag.current
        if (!start) return
        let [dx, dy] = [event.clientX - start.x, event.clientY - start.y]
        if (!start.moved && Math.hypot(dx, dy) < 3) return
        start.moved = true
        if (event.shiftKey) {
          if (Math.abs(dx) > Math.abs(dy)) dy = 0
          else dx = 0
        }
        move(start.motion, dx / perFrame, perValue > 0 ? -dy / perValue : 0, event.altKey)
      }}
      onPointerUp={() => {
        drag.current = null
        endGesture()
      }}
      onKeyDown={(event) => {
        if (event.ctrlKey || event.altKey) return
        const step = property.type === 'number' ? property.step : 0
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key]
        if (!by) return
        event.preventDefault()
        event.stopPropagation()
        move(motion, by[0] as number, by[1] as number, false)
      }}
    />
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
