import type { Loop } from '../document'
import { evaluateUnreduced, type Look } from '../evaluate'
import { greatestDifference, type Picture, reducePicture } from '../image'
import { GROUNDS } from './grounds'

/** A spot is at least so wide, px: edges that are smoothed otherwise are no fault of it. */
export const SPOT_PX = 5
/** Largest difference of two spots that look alike, 0 … 255. Antialiased edges of surfaces that agree within 1 % differ by up to this much. */
const ALIKE = 24

/** The picture reduced to `across` spots along its longer side, composited on mid-grey: opaque. */
export function spotsOf(picture: Picture, across: number): Picture {
  const { width, height, data } = reducePicture(picture, across)
  const seen = new Uint8ClampedArray(data.length)
  for (let i = 0; i < data.length; i += 4) {
    const alpha = data[i + 3] / 255
    for (let c = 0; c < 3; c++) seen[i + c] = data[i + c] * alpha + (GROUNDS.grey[c] as number) * (1 - alpha)
    seen[i + 3] = 255
  }
  return { width, height, data: seen }
}

/** Largest difference of any spot of two pictures of one size, 0 … 255. */
export function spotDifference(a: Picture, b: Picture): number {
  const across = Math.max(1, Math.round(Math.max(a.width, a.height) / SPOT_PX))
  return greatestDifference(spotsOf(a, across), spotsOf(b, across))
}

/** Moments of a loop at which it is compared with itself one round later, as shares of its length. */
const MOMENTS = [0, 0.31, 0.73]

/**
 * Whether a loop is seen to be at N + x what it is at x: both are drawn, at unreduced time, and compared spot by spot. What is offered as a
 * shorter loop is asked so before it is offered.
 * @param draw draws a frame, whole or between two, of the loop as `look` evaluates it
 */
export async function isSeenToComeHome(
  loop: Loop,
  draw: (frame: number, look: Look) => Promise<Picture>,
): Promise<boolean> {
  for (const share of MOMENTS) {
    const x = Math.floor(share * loop.length)
    const now = await draw(x, evaluateUnreduced)
    const later = await draw(loop.length + x, evaluateUnreduced)
    if (spotDifference(now, later) > ALIKE) return false
  }
  return true
}
