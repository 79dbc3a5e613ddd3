import { type Motion, periodFrames } from '@/core/motion'
import type { Point } from '@/core/path'

export const DIAL = { radius: 130, outer: 112, inner: 46, cache: 117, ticks: 122 } as const

/** Angle of a frame, radians: the seam at the top, time clockwise. */
export const frameAngle = (frame: number, length: number): number => (frame / length) * 2 * Math.PI - Math.PI / 2

export const onDial = (radius: number, angle: number): Point => ({
  x: radius * Math.cos(angle),
  y: radius * Math.sin(angle),
})

/** The frame under a point about the dial's middle, 0 … N, fractional. */
export const frameAtPoint = ({ x, y }: Point, length: number): number =>
  (((Math.atan2(y, x) + Math.PI / 2) / (2 * Math.PI) + 1) % 1) * length

/** SVG path of an arc from one frame to another; a whole turn is drawn as two halves. */
export function arcPath(radius: number, from: number, to: number, length: number): string {
  const span = to - from
  if (span >= length - 1e-9)
    return `${arcPath(radius, from, from + length / 2, length)}${arcPath(radius, from + length / 2, from + length * 0.99999, length)}`
  const a = onDial(radius, frameAngle(from, length))
  const b = onDial(radius, frameAngle(to, length))
  return `M${a.x} ${a.y}A${radius} ${radius} 0 ${span > length / 2 ? 1 : 0} 1 ${b.x} ${b.y}`
}

/** At most this many cycles are told apart on a ring. */
const MAX_CYCLES = 64

/** Where the cycles of a motion begin, as frames in [0, N); none where they are too many to tell apart. */
export function cycleStarts(motion: Motion, length: number): number[] {
  const period = periodFrames(motion.period, length)
  if (length / period > MAX_CYCLES) return []
  const first = Math.ceil(motion.phase - 1e-9)
  const starts: number[] = []
  for (let k = first; (k - motion.phase) * period < length - 1e-6; k++) starts.push((k - motion.phase) * period + 0)
  return starts
}

/** A key where it stands on the ring. */
export interface Bead {
  readonly index: number
  readonly frame: number
  /** The cycle it stands in: q = frame/P + φ lies in [cycle, cycle + 1]. */
  readonly cycle: number
  /** True in the first cycle in which the key is seen. */
  readonly first: boolean
}

/** The keys of a motion on the ring, once in every cycle of the loop. An end key that falls on the first is left out. */
export function beadsOf(motion: Motion, length: number): Bead[] {
  const period = periodFrames(motion.period, length)
  if (length / period > MAX_CYCLES) return []
  const beads: Bead[] = []
  const hasStart = motion.keys[0]?.at === 0
  const once = motion.after === 'once'
  for (const [index, key] of motion.keys.entries()) {
    if (key.at === 1 && hasStart && !once) continue
    let first = true
    for (let cycle = once ? 0 : -1; (cycle - motion.phase) * period < length; cycle++) {
      const frame = (key.at + cycle - motion.phase) * period
      if (frame < -1e-6 || frame >= length - 1e-6) {
        if (once) break
        continue
      }
      beads.push({ index, frame: Math.max(0, frame), cycle, first })
      first = false
      if (once) break
    }
  }
  return beads
}

/** The place in its cycle at which a key stands when its bead is put on a frame. */
export const beadPlace = (motion: Motion, bead: Pick<Bead, 'cycle'>, frame: number, length: number): number =>
  frame / periodFrames(motion.period, length) + motion.phase - bead.cycle

/** Where the pointer is about the dial's middle, in the dial's own units. */
export function pointerAt(svg: SVGSVGElement, event: { clientX: number; clientY: number }): Point {
  const rect = svg.getBoundingClientRect()
  const unit = (2 * DIAL.radius) / rect.width
  return { x: (event.clientX - rect.left) * unit - DIAL.radius, y: (event.clientY - rect.top) * unit - DIAL.radius }
}
