import { median } from '../statistics'
import { CHANNELS } from './descriptor'
import { deviation, type Series } from './series'

/** Regions across and down, named as one points at a picture. */
export const REGIONS = [
  ['top left', 'top', 'top right'],
  ['left', 'middle', 'right'],
  ['bottom left', 'bottom', 'bottom right'],
].flat()
const SIDE = 3

/**
 * Where in the picture each step is: r(i, k) = √(Σ over the active pixels of region k of |frame i+1 − frame i|² ÷ all
 * active pixels), at the judging scale, so that the squares of the nine regions add up to the square of the step.
 * @returns for each step the nine regions, row by row
 */
export function regionSteps({ N, frame, active: pixels, scale }: Series): number[][] {
  const active = pixels[scale]
  const { width, height } = frame(0)[scale]
  const regionOf = (i: number) => {
    const x = (i / CHANNELS) % width
    const y = Math.floor(i / CHANNELS / width)
    return SIDE * Math.floor((SIDE * y) / height) + Math.floor((SIDE * x) / width)
  }
  const regions = Uint8Array.from(active, regionOf)
  return Array.from({ length: N }, (_, n) => {
    const a = frame(n)[scale]
    const b = frame(n + 1)[scale]
    const sums = new Array<number>(REGIONS.length).fill(0)
    for (const [k, i] of active.entries()) {
      let sum = 0
      for (let c = 0; c < CHANNELS; c++) sum += (a.values[i + c] - b.values[i + c]) ** 2
      const region = regions[k]
      sums[region] += sum
    }
    return sums.map((sum) => Math.sqrt(sum / Math.max(1, active.length)))
  })
}

/** Deviations from the median from which a step is named, and the most that are. */
const NAMED = 6
const MAX_NAMED = 6

/** Steps that lie outside the family of all others, by median and median absolute deviation; the furthest first. */
export function outlyingSteps(steps: readonly number[]): number[] {
  const middle = median(steps)
  const spread = Math.max(deviation(steps, middle), 0.02 * middle)
  if (spread === 0) return []
  const off = (n: number) => Math.abs(steps[n] - middle) / spread
  return steps
    .map((_, n) => n)
    .filter((n) => off(n) > NAMED)
    .sort((a, b) => off(b) - off(a))
    .slice(0, MAX_NAMED)
}
