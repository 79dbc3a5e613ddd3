import { ClipError, MAX_CLAIMED_FRAMES } from '@/codecs/claims'
import { MAX_PIXELS, type Picture, type SheetGrid } from '@/core/image'

/** Facts of a clip before it is decoded. */
export interface OpenedClip {
  readonly format: string
  /** px, turned as it is shown */
  readonly width: number
  readonly height: number
  /** Frames that it claims; there may be fewer. */
  readonly count: number
  /** 0 is for ever. */
  readonly plays: number
  readonly notes: readonly string[]
  /** How a sprite sheet is cut. */
  readonly grid?: SheetGrid | null
  /**
   * The frames as a viewer shows them, at a size, each with its number and the time for which it is shown.
   * @param wanted numbers of the frames that are asked for, ascending; all of them where it is left out
   */
  readonly frames: (width: number, height: number, wanted?: readonly number[]) => AsyncGenerator<ReadFrame>
}
interface ReadFrame {
  readonly n: number
  readonly picture: Picture
  readonly delayMs: number
}

type Drawing = (context: OffscreenCanvasRenderingContext2D, width: number, height: number) => void

/** A canvas that pictures are drawn on, one after the other, and read from. */
export function reader(width: number, height: number): (draw: Drawing) => Picture {
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })
  if (!context) throw new ClipError('This browser gives no canvas to read pictures with.')
  return (draw) => {
    context.clearRect(0, 0, width, height)
    draw(context, width, height)
    return context.getImageData(0, 0, width, height)
  }
}

/** All numbers below a count, or those that are asked for. */
export const numbersOf = (count: number, wanted?: readonly number[]): readonly number[] =>
  wanted ?? Array.from({ length: count }, (_, n) => n)

/** @throws ClipError where no clip of this size and length can be worked with. */
export function refuseClipSize(width: number, height: number, count: number, format: string): void {
  if (width < 1 || height < 1 || width * height > MAX_PIXELS)
    throw new ClipError(
      `The ${format} file claims ${width} × ${height} px, which cannot be worked with. Make it smaller first; it may be damaged otherwise.`,
    )
  if (count < 1) throw new ClipError(`The ${format} file holds no picture. Fetch or export it again.`)
  if (count > MAX_CLAIMED_FRAMES)
    throw new ClipError(
      `The ${format} file holds ${count} frames; up to ${MAX_CLAIMED_FRAMES} can be read. Cut it first.`,
    )
}
