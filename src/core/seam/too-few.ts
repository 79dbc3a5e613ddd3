import { greatest, median } from '../statistics'
import { CHANNELS } from './descriptor'
import type { Series } from './series'

/** Up to this many frames that differ may be too few to tell near from far … */
const TOO_FEW = 12
/** … where two steps change the picture less than this many times as much as one, at the scale that tells best … */
const TELLS = 1.25
/** … and steps are not alike either: one differs from the median by over this share of it. */
const UNEVEN = 0.08

/**
 * Whether a short series has saturated differences, so that a leap would change the picture no more than any step. A series whose steps are
 * all alike, such as a wheel that turns evenly, is taken to close.
 */
export function tellsNothing(series: Series): boolean {
  const { steps, same } = series
  if (!isTooShort(series)) return false
  const isUneven = (values: readonly number[]) => {
    const middle = median(values)
    return greatest(values.map((value) => Math.abs(value - middle))) > UNEVEN * middle
  }
  const middles = centreSteps(series)
  const moves = greatest(middles) > CENTRE_MOVES
  return isUneven(steps.filter((_, n) => !same[n])) || (moves && isUneven(middles))
}

/** Fewer steps that move show no way at all. */
const MIN_MOVES = 5

/** True if a series is short and moves far in each frame, so that its distances may tell nothing. */
const isTooShort = ({ N, same, tells }: Series): boolean =>
  N <= TOO_FEW && same.filter((each) => !each).length >= MIN_MOVES && tells < TELLS

/** The centre of what differs moves by more than this share of the frame where it says anything. */
const CENTRE_MOVES = 0.03

/** The last frame before the centre of what moves goes twice as far as in any other step, in a short series; null where it does not. */
export function centreJump(series: Series): number | null {
  // A loop that holds its pictures ticks: its centre shows no direction.
  if (!isTooShort(series) || series.same.some(Boolean)) return null
  const steps = centreSteps(series)
  const most = greatest(steps)
  const n = steps.indexOf(most)
  const others = greatest(steps.filter((_, i) => i !== n))
  return most > CENTRE_MOVES && most > CENTRE_LEAPS * others ? n : null
}
const CENTRE_LEAPS = 2

/** How far the centre of what differs from the mean of all frames moves from each frame to the next, as a share of the frame's longer side. */
function centreSteps({ N, frame }: Series): number[] {
  const { width, height, values } = frame(0)[0]
  const mean = new Float32Array(values.length)
  const plane = (n: number) => frame(n)[0].values
  for (let n = 0; n < N; n++) for (let i = 0; i < mean.length; i++) mean[i] += plane(n)[i] / N
  const centres = Array.from({ length: N }, (_, n) => {
    let sum = 0
    let x = 0
    let y = 0
    for (let i = 0, p = 0; i < mean.length; i += CHANNELS, p++) {
      let apart = 0
      for (let c = 0; c < CHANNELS; c++) apart += (plane(n)[i + c] - mean[i + c]) ** 2
      sum += apart
      x += apart * (p % width)
      y += apart * Math.floor(p / width)
    }
    return sum > 0 ? { x: x / sum, y: y / sum } : { x: 0, y: 0 }
  })
  const side = Math.max(width, height)
  return centres.map((from, n) => {
    const to = centres[(n + 1) % N]
    return Math.hypot(to.x - from.x, to.y - from.y) / side
  })
}
