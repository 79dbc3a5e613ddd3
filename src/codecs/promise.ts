import { type FileFormat, toNumber } from '@/core/clock'
import { checkMotions } from '@/core/closing'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { type FileSettings, isVector, type PassFile, WHOLE_PASSES } from '@/core/output'
import { judgeLoop, type LoopVerdict, type SeamReport } from '@/core/seam'
import type { EncodeJob } from './write'

/** The promise of a file: the frames, times and verdict that were meant. */
export interface FilePromise {
  readonly width: number
  readonly height: number
  /** How long each frame is to be shown, ms; null where the file cannot say it. */
  readonly delaysMs: readonly number[] | null
  /** A time may be off by at most this, ms: what the container cannot express. */
  readonly toleranceMs: number
  /** Whether the file says how often it is played: then it must say for ever. */
  readonly saysRepeats: boolean
  readonly frames: number
  /** The frame that was drawn, by its number in the file; null where somebody else has held the one that is read back against it. */
  readonly frame: (n: number) => Picture | null | Promise<Picture | null>
  readonly transparent: boolean
  readonly pixels: PixelPromise
  /** The document's own verdict, given the seam of the pictures of the file; null where there is none, or nothing in it. */
  readonly verdict: ((seam: SeamReport) => LoopVerdict) | null
}

/** How near the pixels of a file come to what was drawn. All limits are differences of bytes, 0 … 255. */
export interface PixelPromise {
  /** `exact`: every pixel as it was drawn. `near`: lossy. `palette`: colours of a palette, and pixels that are drawn or not. */
  readonly kind: 'exact' | 'near' | 'palette'
  /** Largest mean difference of the colours. */
  readonly mean: number
  /** Largest difference of the mean of any spot; null where spots are not looked at. */
  readonly spot: number | null
  /** From this difference of a spot on it is looked whether the frame shows another picture than its own. */
  readonly suspect: number
}

/** Every pixel is as it was drawn. */
export const EXACT_PIXELS: PixelPromise = { kind: 'exact', mean: 0, spot: null, suspect: 0 }
/** A mean error over this many of 255 is no longer near; compression of good quality stays far below it. */
const NEAR_MEAN = 6
/** Compression of good quality. */
export const NEAR_PIXELS: PixelPromise = { kind: 'near', mean: NEAR_MEAN, spot: null, suspect: 16 }
/** Edges that are smoothed otherwise put spots off by less: up to 26 of the demo loops, at sizes from 0.25 to 2. */
const VECTOR_SPOT = 40
/** With this many colours and more, every place has one that is near. */
const MANY_COLOURS = 64
/** Limits of a palette of many colours, and of few, where dithering and flat areas are further off. */
const PALETTE = { many: { mean: 16, spot: 96, suspect: 24 }, few: { mean: 72, spot: null, suspect: 56 } } as const

/** Files that say how long each frame is shown, and how truly, ms: times of WebM are whole milliseconds, those of MP4 and AVIF parts of a timescale. */
const TIMED: Readonly<Partial<Record<FileFormat, number>>> = {
  gif: 0.01,
  apng: 0.01,
  webp: 0.01,
  mp4: 0.1,
  webm: 1.01,
  avif: 0.1,
}
/** Files that say how often they are played. */
const COUNTED: readonly FileFormat[] = ['gif', 'apng', 'webp', 'avif']
const LOSSY: readonly FileFormat[] = ['avif', 'mp4', 'webm']

/**
 * Promise of a palette.
 * @param loss distance by which a pixel may be off before it is written anew, 0 … 255
 */
export function palettePromise(colours: number, loss: number, transparent: boolean): PixelPromise {
  const { mean, spot, suspect } = colours >= MANY_COLOURS ? PALETTE.many : PALETTE.few
  return {
    kind: 'palette',
    mean: mean + loss,
    // Half clear edges become drawn or not.
    spot: transparent || spot === null ? null : spot + loss,
    suspect: suspect + loss + (transparent ? 32 : 0),
  }
}

function pixelsOf(settings: FileSettings, transparent: boolean, isWhole: boolean): PixelPromise {
  const { format, lossless, colours, loss } = settings
  if (isVector(format)) return { ...NEAR_PIXELS, spot: isWhole ? VECTOR_SPOT : null }
  if (format === 'gif') return palettePromise(colours, loss, transparent)
  return LOSSY.includes(format) || (format === 'webp' && !lossless) ? NEAR_PIXELS : EXACT_PIXELS
}

/** Part of a promise that does not come from the settings. */
interface Promised {
  readonly frame: FilePromise['frame']
  /** The pass that is read back; the whole picture unless said. */
  readonly pass?: string
  /** How fine the pictures of the pass are; 8 bits unless said. */
  readonly as?: PassFile
  /** Of vectors: whether the format can say all that the loop shows. */
  readonly isWhole?: boolean
  /** Of vectors: moments that are looked at, in place of all frames. */
  readonly moments?: number
}

/** Verdicts of a loop by the frames of a file: they may be fewer than the loop's own. */
function verdictBy(loop: Loop, { frames }: EncodeJob['timing']): (seam: SeamReport) => LoopVerdict {
  const motions = checkMotions(loop)
  return (seam) => {
    const next = seam.frame === null ? null : (frames[seam.frame + 1] ?? loop.length)
    const frame = next === null ? null : (Math.ceil(next) - 1 + loop.length) % loop.length
    return judgeLoop(loop, motions, { ...seam, frame: seam.isStray ? seam.frame : frame })
  }
}

/** Promise of a file of a loop, by format and settings. Nothing else makes a promise for a loop. */
export function promiseOf(
  {
    loop,
    settings,
    timing,
    width,
    height,
    transparent,
  }: Pick<EncodeJob, 'loop' | 'settings' | 'timing' | 'width' | 'height' | 'transparent'>,
  { frame, pass = 'picture', as = 'png', isWhole = true, moments }: Promised,
): FilePromise {
  const { format } = settings
  // A layer by itself is clear around it, whatever lies behind the loop.
  const clear = transparent || !(WHOLE_PASSES as readonly string[]).includes(pass)
  return {
    width,
    height,
    frame,
    frames: moments ?? timing.frames.length,
    transparent: as === 'png' ? clear : true,
    delaysMs: format in TIMED ? timing.delays.map((delay) => 1000 * toNumber(delay)) : null,
    toleranceMs: TIMED[format] ?? 0,
    saysRepeats: COUNTED.includes(format),
    // A decoder of 8 bits may cut or round pictures of 16.
    pixels: as === 'png of 16 bits' ? NEAR_PIXELS : as === 'exr' ? EXACT_PIXELS : pixelsOf(settings, clear, isWhole),
    // A cut from a clip, and joined parts that kept no loop, have no document that could give a verdict.
    verdict: loop.layers.length > 0 ? verdictBy(loop, timing) : null,
  }
}

/** Promise of a GIF of a clip, whose palettes are measured; a clip has no document. */
export const gifPromise = (file: {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  readonly transparent: boolean
  readonly frame: FilePromise['frame']
  readonly colours?: number
}): FilePromise => ({
  width: file.width,
  height: file.height,
  frame: file.frame,
  frames: file.delaysCs.length,
  transparent: file.transparent,
  delaysMs: file.delaysCs.map((delay) => 10 * delay),
  toleranceMs: TIMED.gif as number,
  saysRepeats: true,
  pixels: palettePromise(file.colours ?? 256, 0, file.transparent),
  verdict: null,
})
