import { median } from '../statistics'
import { type Series, STILL } from './series'

/** Pictures within this share of a usual step are the same picture. */
const SAME = 0.25

/** The least P | N after which the series shows the same again; null where there is none. */
export function shorterLoop({ N, d, steps }: Series): number | null {
  const usual = median(steps.filter((step) => step > STILL))
  for (let P = 1; P <= N / 2; P++) {
    if (N % P !== 0) continue
    let same = true
    for (let n = 0; n < N && same; n++) same = d(n, n + P) <= Math.max(STILL, SAME * usual)
    if (same) return P === 1 ? null : P
  }
  return null
}

/** Whether frame N − i equals frame i, all along. */
export function isThereAndBack({ N, d, steps }: Series): boolean {
  if (N < 6) return false
  const usual = median(steps.filter((step) => step > STILL))
  for (let n = 1; n < N / 2; n++) if (d(n, N - n) > Math.max(STILL, SAME * usual)) return false
  return true
}

/** How much the change from n − 1 to n is like that from n to n + 1: 1 straight on, −1 straight back. */
function straightness({ d }: Series, n: number): number {
  const a = d(n - 1, n)
  const b = d(n, n + 1)
  const both = d(n - 1, n + 1)
  return a * b > STILL * STILL ? (both * both - a * a - b * b) / (2 * a * b) : 1
}

/** The direction bends at the seam far more than anywhere else: by the cosine law on the three distances. */
export function hasKink(series: Series): boolean {
  const { N } = series
  if (N < 8) return false
  const inside = Array.from({ length: N - 2 }, (_, i) => straightness(series, i + 1)).sort((a, b) => a - b)
  const seam = Math.min(straightness(series, 0), straightness(series, N - 1))
  const least = inside[Math.floor(inside.length / 50)]
  const middle = median(inside)
  return seam < 0.2 && seam < least - 0.4 && middle > 0.4
}

/** Frames two apart are nearer than neighbours, all through the loop. */
export function strobes({ N, d, steps }: Series): boolean {
  if (N < 6) return false
  const near = median(steps)
  const far = median(Array.from({ length: N }, (_, n) => d(n, n + 2)))
  return near > STILL && far < 0.6 * near
}
