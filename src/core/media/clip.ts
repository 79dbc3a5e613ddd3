import * as z from 'zod/mini'
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
import { list, number, text, whole } from '../schemas'
import {
  type Asset,
  assetOf,
  assetOfParts,
  MAX_CLIP_BYTES,
  MAX_CLIP_FRAMES,
  MAX_PICTURE_BYTES,
  MAX_SOURCE_BYTES,
} from './asset'
import type { Medium, MediumKind } from './medium'
import { MAX_SIDE_PX } from './picture-file'
import { VERDICTS, type Verdict } from './verdicts'

/** Moving pictures: frames of one size, how long each is shown, and the file that they were cut from. */
export interface Clip extends Medium {
  readonly kind: 'clip'
  readonly width: number
  readonly height: number
  /** Verdict on the clip by itself, repeated, from when it was imported. */
  readonly verdict: Verdict
  /** The first frame after its fault; 0, or left out, where that is at its seam. */
  readonly faultFrame?: number
  readonly delaysMs: readonly number[]
  /** The frames as they are drawn, mended and cut: each a picture file. */
  readonly frames: Asset
  /** The file as it came, with its name, where it is no larger than what is kept. */
  readonly source?: { readonly name: string; readonly file: Asset }
}

const MAX_CLIPS = 50

/** How long one cycle of a clip lasts, s. */
export const clipSeconds = ({ delaysMs }: Pick<Clip, 'delaysMs'>): number =>
  delaysMs.reduce((sum, delay) => sum + delay, 0) / 1000

/** Times that differ by less than this share of a cycle are one: a frame begins at its time, however that was rounded. */
const SAME_TIME = 1e-9

/**
 * Frame of a clip at a position in its cycles, any real number. The clip is a ring of half-open frames: there is a
 * frame at every time, and the one after the last is the first. If all delays are 0, frames count alike.
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

export const clipMedium: MediumKind<Clip> = {
  kind: 'clip',
  label: 'clip',
  fields: {
    width: whole(1, MAX_SIDE_PX),
    height: whole(1, MAX_SIDE_PX),
    verdict: z.enum(VERDICTS),
    faultFrame: z.optional(whole(0, MAX_CLIP_FRAMES - 1)),
    delaysMs: list(number(0, 3_600_000), MAX_CLIP_FRAMES, 1),
    frames: assetOfParts(MAX_CLIP_BYTES, MAX_PICTURE_BYTES, MAX_CLIP_FRAMES),
    source: z.optional(z.strictObject({ name: text(255), file: assetOf(MAX_SOURCE_BYTES) })),
  },
  fault: ({ delaysMs, frames }) =>
    delaysMs.length === frames.parts?.length ? null : { field: 'frames', message: 'are not as many as the delays' },
  most: MAX_CLIPS,
  assets: ({ frames, source }) => [frames, ...(source ? [source.file] : [])],
  seam: ({ verdict, faultFrame = 0, delaysMs }) => ({
    verdict,
    frame: faultFrame,
    place: startOfFrame(delaysMs, faultFrame),
  }),
  delaysMs: ({ delaysMs }) => delaysMs,
  source: ({ source = null }) => source,
  withPictures: (clip, size, frames) => ({ ...clip, ...size, frames }),
  picture: {
    size: ({ width, height }) => ({ width, height }),
    of: ({ frames }) => frames,
    at: ({ delaysMs }, cycles) => frameOfClip(delaysMs, cycles),
  },
}
