import { useMemo } from 'react'
import type { Clock } from '@/core/clock'
import { mixingOf, movingProperty, type Property } from '@/core/layers'
import { type Motion, type MovingValue, motionValue, parseEase, periodFrames } from '@/core/motion'

/** Cycles shown before and after the one in the middle. */
export const GHOST = 0.5
const SAMPLES = 320
export const PAD = { left: 44, right: 10, top: 16, bottom: 4 }
export const SPEED_HEIGHT = 34

/** A value as a height: numbers are themselves, others their distance from the first key's. */
const heightOf = (property: Property, value: MovingValue, first: MovingValue): number =>
  typeof value === 'number' ? value : mixingOf(property).distance(first, value)

/** Where a motion's curve lies in a picture of some px: q counts cycles, h is the value. */
export interface CurveGeometry {
  readonly qs: readonly number[]
  readonly heights: readonly number[]
  readonly speeds: readonly number[]
  readonly low: number
  readonly high: number
  /** Value at a position in cycles from the start of the shown one. */
  readonly heightAt: (q: number) => number
  readonly x: (q: number) => number
  readonly y: (h: number) => number
  readonly qOf: (x: number) => number
  /** px of the screen per frame, and per unit of the value; 0 where it is no number */
  readonly perFrame: number
  readonly perValue: number
  readonly floor: number
}

export function useCurve(
  motion: Motion,
  property: Property,
  clock: Clock,
  width: number,
  height: number,
): CurveGeometry {
  const period = periodFrames(motion.period, clock.length)
  const curve = useMemo(() => {
    const { mix } = movingProperty(property, {})
    const first = motion.keys[0]?.value ?? 0
    const heightAt = (q: number) =>
      heightOf(property, motionValue(motion, (q - motion.phase) * period, clock.length, mix), first)
    const qs = Array.from({ length: SAMPLES + 1 }, (_, i) => -GHOST + (i / SAMPLES) * (1 + 2 * GHOST))
    const heights = qs.map(heightAt)
    const speeds = heights.slice(1).map((h, i) => Math.abs(h - (heights[i] as number)))
    return { qs, heights, speeds, heightAt, low: Math.min(...heights), high: Math.max(...heights) }
  }, [motion, property, period, clock.length])
  const plotWidth = Math.max(1, width - PAD.left - PAD.right)
  const plotHeight = Math.max(1, height - PAD.top - PAD.bottom - SPEED_HEIGHT - 14)
  const range = curve.high - curve.low || 1
  return {
    ...curve,
    x: (q) => PAD.left + ((q + GHOST) / (1 + 2 * GHOST)) * plotWidth,
    y: (h) => PAD.top + (1 - (h - curve.low) / range) * plotHeight,
    qOf: (x) => ((x - PAD.left) / plotWidth) * (1 + 2 * GHOST) - GHOST,
    perFrame: plotWidth / (1 + 2 * GHOST) / period,
    perValue: typeof motion.keys[0]?.value === 'number' ? plotHeight / range : 0,
    floor: height - PAD.bottom,
  }
}

/** The control points of an ease that is a curve or a straight line; null for steps and holds. */
export function easePoints(ease: string): readonly [number, number, number, number] | null {
  const parsed = parseEase(ease)
  if (parsed?.type === 'bezier') return parsed.points
  return parsed?.type === 'linear' ? [1 / 3, 1 / 3, 2 / 3, 2 / 3] : null
}
