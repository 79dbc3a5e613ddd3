import { greatestDifference, type Picture, type PixelError, pixelError, reducePicture } from '@/core/image'
import { type Described, describeFrame, judgeDescribed, judgedSide, type SeamReport } from '@/core/seam'

/** What was meant to be written. */
export interface FilePromise {
  readonly width: number
  readonly height: number
  /** How long each frame is to be shown, ms; null where the file cannot say it. */
  readonly delaysMs: readonly number[] | null
  /** So far may a time be off, ms: what the container cannot express. */
  readonly toleranceMs: number
  readonly frames: number
  /** The frame that was drawn, by its number in the file; null where somebody else has held the one that is read back against it. */
  readonly frame: (n: number) => Picture | null | Promise<Picture | null>
  readonly transparent: boolean
  /** Whether every pixel is to be as it was drawn, or may only lie near it; a palette promises neither. */
  readonly pixels: 'exact' | 'near' | 'palette'
  /** So far may the mean of any spot be off, 0 … 255, of which up to 96 lie side by side; left out where that is not looked at. */
  readonly spots?: number
  /** Whether the loop says that a rest at its seam is meant. */
  readonly restMeant?: boolean
}

/** A file as a decoder reads it, which is not its encoder. */
export interface ReadBack {
  readonly width: number
  readonly height: number
  readonly delaysMs: readonly number[] | null
  /** null where files of this kind do not say it. */
  readonly playsForever: boolean | null
  readonly frames: Iterable<Picture> | AsyncIterable<Picture>
}

/** One thing that was checked: what the file should say and what it says. */
export interface ProofLine {
  readonly what: string
  readonly expected: string
  readonly found: string
  readonly holds: boolean
}

/** The check of a file, made by reading it back. */
export interface Proof {
  readonly lines: readonly ProofLine[]
  readonly holds: boolean
  readonly bytes: number
  readonly seam: SeamReport
  /** Mean and greatest difference of the file's pixels from the drawn ones, 0 … 255. */
  readonly meanError: number
  readonly worstError: number
  /** The same of alpha. */
  readonly alphaError: number
}

/** A mean error of this many of 255 is no longer near; compression of good quality stays far below it. */
const NEAR = 6
/** A spot is at least so wide, px: edges that are smoothed otherwise are no fault of it. */
const SPOT_PX = 5
/** Frames at the seam may be so many times as far off as the others, and so much besides. */
const SEAM_TIMES = 2
const SEAM_BESIDES = 1

/** How frames of a file are looked at. */
export interface Inspection {
  /** px of the longest side at which they are judged. */
  readonly side: number
  readonly alpha: Parameters<typeof pixelError>[2]
  /** How many spots lie beside each other; null where they are not looked at. */
  readonly spots: number | null
}

/** What is known of one frame of a file. */
export interface Inspected {
  readonly described: Described
  /** How far it is from the frame that was drawn; null where there is none to compare it with. */
  readonly error: PixelError | null
  readonly worstSpot: number
}

/** Looks at a frame that was read back, beside the one that was drawn for it. */
export function inspectFrame(frame: Picture, drawn: Picture | null, { side, alpha, spots }: Inspection): Inspected {
  const across = (picture: Picture) => reducePicture(picture, spots ?? side)
  return {
    described: describeFrame(reducePicture(frame, side)),
    error: drawn && pixelError(frame, drawn, alpha),
    worstSpot: drawn && spots !== null ? greatestDifference(across(frame), across(drawn)) : 0,
  }
}

/** inspectFrame, here or elsewhere. */
export type Inspect = (...frame: Parameters<typeof inspectFrame>) => Promise<Inspected>

/** Frames that are being looked at, at the most, while others are read. */
const LOOKING = 12

/**
 * Holds a file that is read back against what was meant to be written.
 * @param progress is told how many frames have been compared, and may throw to stop
 * @param inspect looks at its frames; here, where it is left out
 */
export async function proveFile(
  bytes: number,
  file: ReadBack,
  promise: FilePromise,
  progress: (frames: number) => void | Promise<void> = () => {},
  inspect: Inspect = async (...frame) => inspectFrame(...frame),
): Promise<Proof> {
  const sameSize = file.width === promise.width && file.height === promise.height
  // A palette knows only drawn and not drawn.
  const alpha = !promise.transparent ? 'opaque' : promise.pixels === 'palette' ? 'drawn or not' : 'own'
  const how: Inspection = {
    side: judgedSide(promise.frames),
    alpha,
    spots: promise.spots === undefined ? null : spotsAcross(promise),
  }
  const looked: Promise<Inspected>[] = []
  let n = 0
  for await (const frame of file.frames) {
    const one = inspect(frame, sameSize && n < promise.frames ? await promise.frame(n) : null, how)
    // What fails does so where it is waited for.
    one.catch(() => {})
    looked.push(one)
    n++
    await looked[n - LOOKING]
    await progress(n)
  }
  const inspected = await Promise.all(looked)
  const errors = inspected.flatMap(({ error }) => error ?? [])
  const worstSpot = Math.max(0, ...inspected.map((each) => each.worstSpot))
  const seam = judgeDescribed(inspected.map(({ described }) => described))
  const mean = (of: readonly { mean: number }[]) =>
    of.reduce((sum, each) => sum + each.mean, 0) / Math.max(1, of.length)
  const worst = Math.max(0, ...errors.map((each) => each.worst))
  const line = (what: string, expected: string | number, found: string | number): ProofLine => ({
    what,
    expected: String(expected),
    found: String(found),
    holds: expected === found,
  })
  const size = (w: number, h: number) => `${w} × ${h} px`
  const lines = [
    line('frames', promise.frames, n),
    line('size', size(promise.width, promise.height), size(file.width, file.height)),
    ...timeLines(promise, file, n),
    ...(file.playsForever === null
      ? []
      : [line('repeats', 'for ever', file.playsForever ? 'for ever' : 'not for ever')]),
    ...pixelLines(promise, mean(errors), worst),
    ...(promise.spots === undefined
      ? []
      : [
          {
            what: 'every spot',
            expected: `within ${promise.spots} of 255`,
            found: `differs by up to ${worstSpot} of 255`,
            holds: worstSpot <= promise.spots,
          },
        ]),
    alphaLine(promise, errors),
    ...(promise.pixels !== 'exact' && errors.length > 2 ? [seamLine(errors)] : []),
    {
      what: 'seam',
      expected: promise.restMeant ? 'closes, with a rest that is meant' : 'closes, or still',
      found:
        promise.restMeant && seam.verdict === 'hesitates' ? 'closes, with a rest' : seam.verdict.replaceAll('-', ' '),
      holds:
        seam.verdict === 'closes' ||
        seam.verdict === 'still' ||
        (promise.restMeant === true && seam.verdict === 'hesitates'),
    },
  ]
  return {
    lines,
    holds: lines.every(({ holds }) => holds),
    bytes,
    seam,
    meanError: mean(errors),
    worstError: worst,
    alphaError: meanAlpha(errors),
  }
}

function timeLines({ delaysMs, toleranceMs }: FilePromise, file: ReadBack, frames: number): ProofLine[] {
  if (!delaysMs || !file.delaysMs) return []
  const total = (delays: readonly number[]) => delays.reduce((a, b) => a + b, 0)
  const found = file.delaysMs
  const seconds = (ms: number) => `${Number((ms / 1000).toFixed(4)).toFixed(2)} s`
  const off = Math.abs(total(delaysMs) - total(found))
  return [
    {
      what: 'time of one loop',
      expected: seconds(total(delaysMs)),
      found: seconds(total(found)),
      holds: off <= toleranceMs + 1e-6,
    },
    {
      what: 'delays',
      expected: summarise(delaysMs),
      found: summarise(found),
      holds:
        frames === delaysMs.length &&
        found.length === delaysMs.length &&
        delaysMs.every((delay, n) => Math.abs(delay - (found[n] as number)) <= toleranceMs + 1e-6),
    },
  ]
}

function pixelLines({ pixels }: FilePromise, mean: number, worst: number): ProofLine[] {
  if (pixels === 'palette') return []
  const exact = pixels === 'exact'
  return [
    {
      what: 'pixels',
      expected: exact ? 'as they were drawn' : `within ${NEAR} of 255 on average`,
      found: exact
        ? worst === 0
          ? 'as they were drawn'
          : `differs by up to ${worst} of 255`
        : `differs by ${mean.toFixed(2)} on average`,
      holds: exact ? worst === 0 : mean <= NEAR,
    },
  ]
}

/** Spots side by side along the longer side of a picture: as many as are looked at for the seam, of some px at least. */
const spotsAcross = ({ width, height, frames }: FilePromise): number =>
  Math.max(1, Math.min(judgedSide(frames), Math.round(Math.max(width, height) / SPOT_PX)))

/** Encoders that spend least on the first frame or the last smear the seam. */
function seamLine(errors: readonly { mean: number }[]): ProofLine {
  const mean = (of: readonly { mean: number }[]) => of.reduce((sum, each) => sum + each.mean, 0) / of.length
  const seam = mean([errors[0], errors.at(-1)] as { mean: number }[])
  const others = mean(errors.slice(1, -1))
  return {
    what: 'quality at the seam',
    expected: `as elsewhere, ${others.toFixed(2)}`,
    found: seam.toFixed(2),
    holds: seam <= SEAM_TIMES * others + SEAM_BESIDES,
  }
}

/** Delays in words: `60 × 0.03 s`, or `20 × 0.03 s, 40 × 0.04 s` where they take turns. */
function summarise(delaysMs: readonly number[]): string {
  const counts = new Map<number, number>()
  for (const delay of delaysMs) {
    const rounded = Number(delay.toFixed(2))
    counts.set(rounded, (counts.get(rounded) ?? 0) + 1)
  }
  const words = (delay: number) => (delay % 10 === 0 ? `${(delay / 1000).toFixed(2)} s` : `${delay} ms`)
  return [...counts]
    .sort(([a], [b]) => a - b)
    .map(([delay, times]) => `${times} × ${words(delay)}`)
    .join(', ')
}

const meanAlpha = (errors: readonly PixelError[]) =>
  errors.reduce((sum, { alpha }) => sum + alpha, 0) / Math.max(1, errors.length)

/** What becomes of transparency; where nothing is to be seen through, that nothing is. */
function alphaLine({ transparent, pixels }: FilePromise, errors: readonly PixelError[]): ProofLine {
  const worst = Math.max(0, ...errors.map(({ worstAlpha }) => worstAlpha))
  const mean = meanAlpha(errors)
  const exact = !transparent || pixels !== 'near'
  const holds = exact ? worst === 0 : mean <= NEAR
  const expected = transparent
    ? {
        exact: 'as it was drawn',
        palette: 'clear where less than half of a pixel is drawn',
        near: `within ${NEAR} of 255 on average`,
      }[pixels]
    : 'opaque'
  const found = exact
    ? holds
      ? expected
      : `differs by up to ${worst} of 255`
    : `differs by ${mean.toFixed(2)} on average`
  return { what: 'alpha', expected, found, holds }
}
