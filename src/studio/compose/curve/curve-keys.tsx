'use client'

import { bendMotion, changeKey, easeKeys, moveKeys, stretchKeys } from '@/core/edit'
import { amountsOf } from '@/core/layers'
import { type Motion, periodFrames } from '@/core/motion'
import { setSession } from '@/store/session'
import { startDrag } from '../../parts/start-drag'
import { changeMotion, type MotionOf } from '../motion/motion-of'
import { type CurveGeometry, easePoints, PAD } from './curve-geometry'

interface KeysProps {
  readonly of: MotionOf
  readonly geometry: CurveGeometry
  /** Keys that are chosen, by their index. */
  readonly chosen: readonly number[]
}

/** A drag over the curve: from where, and from which motion. */
function useCurveDrag(
  of: MotionOf,
  geometry: CurveGeometry,
  onMove: (start: Motion, dx: number, dy: number, event: PointerEvent) => Motion,
) {
  return {
    onPointerDown: (pressed: React.PointerEvent) => {
      const { motion } = of
      const from = { x: pressed.clientX, y: pressed.clientY }
      let moved = false
      startDrag(pressed, {
        onMove: (event) => {
          let dx = event.clientX - from.x
          let dy = event.clientY - from.y
          if (!moved && Math.hypot(dx, dy) < 3) return
          moved = true
          if (event.shiftKey) {
            if (Math.abs(dx) > Math.abs(dy)) dy = 0
            else dx = 0
          }
          const next = onMove(
            motion,
            dx / geometry.perFrame,
            geometry.perValue > 0 ? -dy / geometry.perValue : 0,
            event,
          )
          changeMotion(of, () => next)
        },
      })
    },
  }
}

/** The keys on the curve: dragged in time from frame to frame (freely with Alt) and in value, several at once where several are chosen. */
export function CurveKeys({ of, geometry, chosen }: KeysProps) {
  const { motion } = of
  const dense = motion.keys.length > 40
  return (
    <g>
      {motion.keys.map((_, index) => (
        <CurveBead key={index} of={of} geometry={geometry} chosen={chosen} index={index} radius={dense ? 2.6 : 5.5} />
      ))}
    </g>
  )
}

function CurveBead({ of, geometry, chosen, index, radius }: KeysProps & { index: number; radius: number }) {
  const { clock, motion, property } = of
  const key = motion.keys[index]
  const isChosen = chosen.includes(index)
  const move = (start: Motion, frames: number, value: number, free: boolean): Motion => {
    const from = start.keys[index]
    const period = periodFrames(start.period, clock.length)
    if (!from) return start
    const frame = from.at * period + frames
    const snapped = free || frames === 0 ? frames : Math.round(frame) - from.at * period
    if (isChosen && chosen.length > 1) return moveKeys(start, chosen, snapped, Number(value.toFixed(4)), clock.length)
    return changeKey(
      start,
      index,
      {
        at: frames === 0 ? from.at : (from.at * period + snapped) / period,
        ...(typeof from.value === 'number' ? { value: Number((from.value + value).toFixed(4)) } : {}),
      },
      clock.length,
    )
  }
  const drag = useCurveDrag(of, geometry, (start, frames, value, event) => move(start, frames, value, event.altKey))
  if (!key) return null
  const period = periodFrames(motion.period, clock.length)
  const at = key.at === 1 && motion.after !== 'repeat' ? 1 - 1e-9 : key.at
  return (
    <circle
      cx={geometry.x(key.at)}
      cy={geometry.y(geometry.heightAt(at))}
      r={radius}
      className={`cursor-grab stroke-base-100 ${isChosen ? 'fill-base-content' : 'fill-primary'}`}
      strokeWidth={radius > 3 ? 1.5 : 0.6}
      role="slider"
      tabIndex={motion.keys.length > 40 && index > 0 && !isChosen ? -1 : 0}
      aria-label={`${property.label}, key ${index + 1} of the curve${isChosen ? ', chosen' : ''}`}
      aria-valuenow={Number((key.at * period).toFixed(2))}
      aria-valuemin={0}
      aria-valuemax={Number(period.toFixed(2))}
      aria-valuetext={`frame ${Number((key.at * period).toFixed(2))}, ${key.value}`}
      {...drag}
      onPointerDown={(event) => {
        if (event.shiftKey) {
          event.stopPropagation()
          return setSession({ keys: isChosen ? chosen.filter((i) => i !== index) : [...chosen, index] })
        }
        if (!isChosen) setSession({ keys: [index] })
        drag.onPointerDown(event)
      }}
      onKeyDown={(event) => {
        if (event.ctrlKey || event.altKey || event.metaKey) return
        if (event.key === ' ') {
          event.preventDefault()
          event.stopPropagation()
          return setSession({ keys: isChosen ? chosen.filter((i) => i !== index) : [...chosen, index] })
        }
        const step = typeof key.value === 'number' ? amountsOf(property).step : 0
        const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, step], ArrowDown: [0, -step] }[event.key]
        if (!by) return
        event.preventDefault()
        event.stopPropagation()
        changeMotion(of, () => move(motion, by[0] as number, by[1] as number, false))
      }}
    />
  )
}

/** A bracket over the chosen keys: its ends pulled make them slower or faster. */
export function StretchBracket({ of, geometry, chosen }: KeysProps) {
  const { motion, clock } = of
  const places = chosen.flatMap((i) => motion.keys[i]?.at ?? [])
  const low = Math.min(...places)
  const high = Math.max(...places)
  const period = periodFrames(motion.period, clock.length)
  const pull = (about: 'first' | 'last') => (start: Motion, frames: number, _value: number, event: PointerEvent) => {
    const moved = about === 'first' ? high * period + frames : low * period + frames
    const to = (event.altKey ? moved : Math.round(moved)) / period
    const still = about === 'first' ? low : high
    const before = (about === 'first' ? high : low) - still
    return before === 0 ? start : stretchKeys(start, chosen, about, (to - still) / before, clock.length)
  }
  const first = useCurveDrag(of, geometry, pull('last'))
  const last = useCurveDrag(of, geometry, pull('first'))
  if (places.length < 2 || high <= low) return null
  const y = PAD.top - 9
  return (
    <g>
      <path
        d={`M${geometry.x(low)} ${y + 5}V${y}H${geometry.x(high)}V${y + 5}`}
        fill="none"
        className="stroke-base-content"
        pointerEvents="none"
      />
      {(
        [
          [low, first, 'begin'],
          [high, last, 'end'],
        ] as const
      ).map(([at, drag, side]) => (
        <rect
          key={side}
          data-testid={`stretch-${side}`}
          x={geometry.x(at) - 4}
          y={y - 4}
          width={8}
          height={8}
          className="cursor-ew-resize fill-base-content"
          {...drag}
        >
          <title>Pull to make the chosen keys slower or faster</title>
        </rect>
      ))}
    </g>
  )
}

/** The handles of the ease that leads away from the one chosen key. */
export function EaseHandles({ of, geometry, chosen }: KeysProps) {
  const { motion } = of
  const [index] = chosen
  const key = chosen.length === 1 && index !== undefined ? motion.keys[index] : undefined
  const next = key && (motion.keys[(index ?? 0) + 1] ?? (motion.after === 'repeat' ? motion.keys[0] : undefined))
  const points = key ? easePoints(key.ease) : null
  if (!key || !next || !points || geometry.perValue === 0 || next === key) return null
  const from = key.at
  const to = next.at > key.at ? next.at : next.at + 1
  const low = geometry.heightAt(from)
  const high = geometry.heightAt(to - 1e-9)
  if (Math.abs(high - low) < 1e-6) return null
  const handle = (i: 0 | 1) => ({
    x: geometry.x(from + (points[2 * i] as number) * (to - from)),
    y: geometry.y(low + (points[2 * i + 1] as number) * (high - low)),
  })
  const ends = [
    { x: geometry.x(from), y: geometry.y(low) },
    { x: geometry.x(to), y: geometry.y(high) },
  ]
  return (
    <g>
      {([0, 1] as const).map((i) => {
        const at = handle(i)
        return (
          <g key={i}>
            <line
              x1={ends[i]?.x ?? 0}
              y1={ends[i]?.y ?? 0}
              x2={at.x}
              y2={at.y}
              className="stroke-accent"
              pointerEvents="none"
            />
            <circle
              data-testid={`ease-handle-${i + 1}`}
              cx={at.x}
              cy={at.y}
              r={4.5}
              className="cursor-move fill-base-100 stroke-accent"
              strokeWidth={1.5}
              onPointerDown={(pressed) => {
                const svg = pressed.currentTarget.ownerSVGElement
                startDrag(pressed, {
                  onMove: (event) => {
                    const rect = svg?.getBoundingClientRect()
                    if (!rect) return
                    const q = geometry.qOf(event.clientX - rect.left)
                    const shareX = Math.min(1, Math.max(0, (q - from) / (to - from)))
                    const shareY = (geometry.y(low) - (event.clientY - rect.top)) / (geometry.y(low) - geometry.y(high))
                    const bent = [...points]
                    bent[2 * i] = shareX
                    bent[2 * i + 1] = Math.min(20, Math.max(-20, shareY))
                    const ease = `cubic-bezier(${bent.map((each) => Number(each.toFixed(3))).join(', ')})`
                    changeMotion(of, (motionNow) => easeKeys(motionNow, chosen, ease))
                  },
                })
              }}
            />
          </g>
        )
      })}
    </g>
  )
}

/** Motions with more keys than this are bent by handles, since their keys are too many to be moved one by one. */
export const DENSE = 12
const HANDLES = 6

/** A few handles that bend a motion of many keys smoothly, the keys themselves kept. */
export function BendHandles({ of, geometry }: Omit<KeysProps, 'chosen'>) {
  const { motion } = of
  if (motion.keys.length <= DENSE || geometry.perValue === 0) return null
  return (
    <g>
      {Array.from({ length: HANDLES }, (_, i) => (
        <BendHandle key={i} of={of} geometry={geometry} at={(i + 0.5) / HANDLES} />
      ))}
    </g>
  )
}

function BendHandle({ of, geometry, at }: Omit<KeysProps, 'chosen'> & { at: number }) {
  const drag = useCurveDrag(of, geometry, (start, _frames, value) => bendMotion(start, at, value, 1.5 / HANDLES))
  const x = geometry.x(at)
  const y = geometry.y(geometry.heightAt(at))
  return (
    <path
      data-testid="bend-handle"
      d={`M${x} ${y - 8}l8 8l-8 8l-8 -8z`}
      className="cursor-ns-resize fill-accent stroke-base-100"
      strokeWidth={1.5}
      {...drag}
    >
      <title>Drag up or down: the motion bends here, less and less to both sides</title>
    </path>
  )
}
