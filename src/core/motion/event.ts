import { SNAP } from './ease'
import type { MovingValue } from './motion'

/** Something that is held for a few frames at some points of its own cycle: a blink, a flash. */
export interface MotionEvent<V extends MovingValue = MovingValue> {
  /** Value of the property during the event. */
  readonly value: V
  /** How long it is held, in frames. */
  readonly frames: number
  /** Where in the cycle it begins, shares 0 … 1. */
  readonly at: readonly number[]
  /** Whole cycles per loop. */
  readonly cycles: number
}

/** Whether an event is on at an unreduced frame of a loop of N frames, `shift` cycles later. */
export function isOn({ at, frames, cycles }: MotionEvent, frame: number, length: number, shift = 0): boolean {
  const q = (frame * cycles) / length + shift
  const share = (frames * cycles) / length
  return at.some((start) => {
    const since = q - start
    return since - Math.floor(since + SNAP) < share - SNAP
  })
}
