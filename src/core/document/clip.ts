import {
  type Clock,
  COMMON_RATES,
  type Fraction,
  fraction,
  greatestCommonDivisor,
  MAX_LENGTH,
  MAX_RATE,
  toNumber,
} from '../clock'
import type { Clip } from './document'

/** How long one cycle of a clip lasts, s. */
export const clipSeconds = ({ delaysMs }: Pick<Clip, 'delaysMs'>): number =>
  delaysMs.reduce((sum, delay) => sum + delay, 0) / 1000

/** Times that differ by less than this share of a cycle are one: a frame begins at its time, however that was rounded. */
const SAME_TIME = 1e-9

/**
 * The frame that a clip shows at so many of its cycles: any real number. The clip is a ring of half-open frames, so there
 * is a frame at every time, and the one after the last is the first. Where all delays are 0, they count alike.
 */
export function frameOfClip(delaysMs: readonly number[], cycles: number): number {
  const N = delaysMs.length
  const shifted = cycles + SAME_TIME
  const share = shifted - Math.floor(shifted)
  const total = delaysMs.reduce((sum, delay) => sum + delay, 0)
  if (total <= 0) return Math.min(N - 1, Math.floor(share * N))
  let until = 0
  for (let n = 0; n < N; n++) {
    until += (delaysMs[n] as number) / total
    if (share < until) return n
  }
  return N - 1
}

/** When a frame of a clip begins, as a share of its cycle. */
export function startOfFrame(delaysMs: readonly number[], n: number): number {
  const total = delaysMs.reduce((sum, delay) => sum + delay, 0)
  if (total <= 0) return n / delaysMs.length
  return delaysMs.slice(0, n).reduce((sum, delay) => sum + delay, 0) / total
}

/** What the picture of one frame of a clip is called. */
export const framePicture = (clipId: string, frame: number): string => `${clipId}/${frame}`

/** The clip and frame that a picture is, by what it is called; null for a still picture. */
export function clipFrameOf(picture: string): { readonly clip: string; readonly frame: number } | null {
  const at = picture.lastIndexOf('/')
  return at < 0 ? null : { clip: picture.slice(0, at), frame: Number(picture.slice(at + 1)) }
}

/** Delays that are no further apart than a file that counts in hundredths of a second puts even ones, ms. */
const ROUNDING_MS = 10

/** Delays that are even but for how their file rounds them, made even; others as they are. */
export function unroundedDelays(delaysMs: readonly number[]): readonly number[] {
  if (Math.max(...delaysMs) - Math.min(...delaysMs) > ROUNDING_MS) return delaysMs
  const mean = delaysMs.reduce((sum, delay) => sum + delay, 0) / delaysMs.length
  return delaysMs.map(() => mean)
}

/** Rates that differ by less than this share are one. */
const SAME_RATE = 1e-3

/** A rate as it was meant: a common one that is as near as rounded times can tell, or in thousandths. */
function meantRate(perSecond: number): Fraction {
  const off = (rate: Fraction) => Math.abs(toNumber(rate) / perSecond - 1)
  const nearest = COMMON_RATES.reduce((best, rate) => (off(rate) < off(best) ? rate : best))
  return off(nearest) < SAME_RATE ? nearest : fraction(Math.max(1, Math.round(perSecond * 1000)), 1000)
}

/**
 * The clock on which each frame of a clip lasts a whole number of frames: its rate and length where it is even, else the
 * coarsest that all its delays are on. There is no frame after the last one, so none can be empty.
 * @returns null where no loop is as long or as fast
 */
export function clockOfClip(delaysMs: readonly number[]): Clock | null {
  const total = delaysMs.reduce((sum, delay) => sum + delay, 0)
  const even = Math.max(...delaysMs) - Math.min(...delaysMs) < 1e-6 * Math.max(1, total)
  const step = even ? total / delaysMs.length : delaysMs.map(Math.round).reduce(greatestCommonDivisor)
  if (!(step > 0)) return null
  const clock = { rate: meantRate(1000 / step), length: Math.round(total / step) }
  return toNumber(clock.rate) <= MAX_RATE && clock.length <= MAX_LENGTH ? clock : null
}
