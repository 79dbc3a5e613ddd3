import { greatestDifference, type Picture, type PixelError, pixelError } from '@/core/image'
import {
  describeFrame,
  type JudgedFrame,
  judgeDescribed,
  judgedSide,
  type LoopVerdict,
  type SeamReport,
  SPOT_PX,
  spotsOf,
} from '@/core/seam'
import { VERDICT_WORDS } from '@/core/seam/words'
import type { FilePromise } from './promise'
import { type ComparedFrame, mixUpOf } from './shown'

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
interface ProofLine {
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

/** Mean difference of alpha that files with loss may have, 0 … 255. */
const NEAR_ALPHA = 6
/** Frames at the seam may be off by this multiple of the others' error, and by the second value besides. */
const SEAM_TIMES = 2
const SEAM_BESIDES = 1

/** How frames of a file are looked at. */
export interface Inspection {
  /** px of the longest side at which they are judged. */
  readonly side: number
  readonly alpha: Parameters<typeof pixelError>[2]
  /** Spots side by side along the longer side; null where they are not looked at. */
  readonly spots: number | null
}

/** Measurements of one frame of a file. */
export interface Inspected {
  readonly described: JudgedFrame
  /** How far it is from the frame that was drawn; null where there is none to compare it with. */
  readonly error: PixelError | null
  /** Both frames in spots; null where there is none to compare it with, or spots are not looked at. */
  readonly shown: ComparedFrame | null
}

/** Looks at a frame that was read back, beside the one that was drawn for it. */
export function inspectFrame(frame: Picture, drawn: Picture | null, { side, alpha, spots }: Inspection): Inspected {
  return {
    described: describeFrame(frame, side),
    error: drawn && pixelError(frame, drawn, alpha),
    shown: drawn && spots !== null ? { found: spotsOf(frame, spots), meant: spotsOf(drawn, spots) } : null,
  }
}

/** inspectFrame, here or elsewhere. */
export type Inspect = (...frame: Parameters<typeof inspectFrame>) => Promise<Inspected>

/** Frames that are being looked at, at the most, while others are read. */
const LOOKING = 12

/** How the frames of a file are measured. A palette has only clear and opaque pixels. */
function inspectionFor(promise: FilePromise): Inspection {
  const { pixels, transparent, frames } = promise
  const kept = pixels.kind === 'palette' ? 'drawn or not' : 'own'
  return {
    side: judgedSide(frames),
    alpha: transparent ? kept : 'opaque',
    spots: pixels.kind === 'exact' ? null : spotsAcross(promise),
  }
}

/**
 * Holds a file that is read back against what was meant to be written.
 * @param progress is told how many frames have been compared, and may throw to stop
 * @param inspect looks at its frames; here, where it is left out
 * @param ownSeam of all frames of the loop, where only moments of the file are looked at; else the file's frames are judged
 */
export async function proveFile(
  bytes: number,
  file: ReadBack,
  promise: FilePromise,
  progress: (frames: number) => void | Promise<void> = () => {},
  inspect: Inspect = async (...frame) => inspectFrame(...frame),
  ownSeam: SeamReport | null = null,
): Promise<Proof> {
  const sameSize = file.width === promise.width && file.height === promise.height
  const how = inspectionFor(promise)
  const looked: Promise<Inspected>[] = []
  let n = 0
  for await (const frame of file.frames) {
    const one = inspect(frame, sameSize && n < promise.frames ? await promise.frame(n) : null, how)
    // A failure is reported where the frame is awaited.
    one.catch(() => {})
    looked.push(one)
    n++
    await looked[n - LOOKING]
    await progress(n)
  }
  const inspected = await Promise.all(looked)
  return proofOf(bytes, file, promise, inspected, ownSeam)
}

/** The proof from the measurements of all frames. */
function proofOf(
  bytes: number,
  file: ReadBack,
  promise: FilePromise,
  inspected: readonly Inspected[],
  ownSeam: SeamReport | null,
): Proof {
  const n = inspected.length
  const { pixels } = promise
  const errors = inspected.flatMap(({ error }) => error ?? [])
  const seam = ownSeam ?? judgeDescribed(inspected.map(({ described }) => described))
  const verdict = promise.verdict?.(seam) ?? null
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
  const repeats = { true: 'for ever', false: 'not for ever', null: 'it is not said' } as const
  const lines = [
    line('frames', promise.frames, n),
    line('size', size(promise.width, promise.height), size(file.width, file.height)),
    ...timeLines(promise, file, n),
    ...(promise.saysRepeats ? [line('repeats', 'for ever', repeats[`${file.playsForever}`])] : []),
    ...(errors.length > 0 ? [pixelLine(promise, mean(errors), worst)] : []),
    ...spotLines(promise, inspected),
    alphaLine(promise, errors),
    ...(pixels.kind !== 'exact' && errors.length > 2 ? [seamQuality(errors)] : []),
    ...(verdict ? [motionLine(verdict)] : []),
    seamLine(seam, verdict),
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

const isSound = (verdict: SeamReport['verdict']): boolean => verdict === 'closes' || verdict === 'still'

/** The document's own verdict: all motions come home, or those that do not were called meant. */
const motionLine = ({ verdict, sentence }: LoopVerdict): ProofLine => ({
  what: 'motions',
  expected: 'come home, or are meant not to',
  found: isSound(verdict) ? 'come home, or are meant not to' : sentence,
  holds: isSound(verdict),
})

/** The verdict from the pictures of the file. Where the document explains what they show, its word counts. */
function seamLine(seam: SeamReport, verdict: LoopVerdict | null): ProofLine {
  const explained = !isSound(seam.verdict) && verdict !== null && isSound(verdict.verdict)
  const why = seam.verdict === 'too-few-frames' ? 'the motions come home' : 'which is meant'
  return {
    what: 'seam',
    expected: 'closes, or still',
    found: `${VERDICT_WORDS[seam.verdict]}${explained ? `, ${why}` : ''}`,
    holds: isSound(seam.verdict) || explained,
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

function pixelLine({ pixels }: FilePromise, mean: number, worst: number): ProofLine {
  const exact = pixels.kind === 'exact'
  return {
    what: 'pixels',
    expected: exact ? 'as they were drawn' : `within ${pixels.mean} of 255 on average`,
    found: exact
      ? worst === 0
        ? 'as they were drawn'
        : `differs by up to ${worst} of 255`
      : `differs by ${mean.toFixed(2)} on average`,
    holds: exact ? worst === 0 : mean <= pixels.mean,
  }
}

/** Whether every frame is the picture that was meant at its place, and how far its worst spot is off. */
function spotLines({ pixels }: FilePromise, inspected: readonly Inspected[]): ProofLine[] {
  const shown = inspected.flatMap((each) => each.shown ?? [])
  if (shown.length === 0 || pixels.kind === 'exact') return []
  const worst = Math.max(...shown.map(({ found, meant }) => greatestDifference(found, meant)))
  const mixUp = mixUpOf(shown, pixels.suspect)
  return [
    ...(pixels.spot === null
      ? []
      : [
          {
            what: 'every spot',
            expected: `within ${pixels.spot} of 255`,
            found: `differs by up to ${worst} of 255`,
            holds: worst <= pixels.spot,
          },
        ]),
    {
      what: 'each frame',
      expected: 'shows its own picture',
      found: mixUp ?? 'shows its own picture',
      holds: mixUp === null,
    },
  ]
}

/** Spots side by side along the longer side of a picture: as many as are looked at for the seam, of some px at least. */
const spotsAcross = ({ width, height, frames }: FilePromise): number =>
  Math.max(1, Math.min(judgedSide(frames), Math.round(Math.max(width, height) / SPOT_PX)))

/** Encoders that spend least on the first frame or the last smear the seam. */
function seamQuality(errors: readonly { mean: number }[]): ProofLine {
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

/** The transparency of the file; a file without any must be opaque. */
function alphaLine({ transparent, pixels }: FilePromise, errors: readonly PixelError[]): ProofLine {
  const worst = Math.max(0, ...errors.map(({ worstAlpha }) => worstAlpha))
  const mean = meanAlpha(errors)
  const exact = !transparent || pixels.kind !== 'near'
  const holds = exact ? worst === 0 : mean <= NEAR_ALPHA
  const expected = transparent
    ? {
        exact: 'as it was drawn',
        palette: 'clear where less than half of a pixel is drawn',
        near: `within ${NEAR_ALPHA} of 255 on average`,
      }[pixels.kind]
    : 'opaque'
  const found = exact
    ? holds
      ? expected
      : `differs by up to ${worst} of 255`
    : `differs by ${mean.toFixed(2)} on average`
  return { what: 'alpha', expected, found, holds }
}
