import type { FileTiming, Fraction } from '@/core/clock'
import type { Picture, SheetSides } from '@/core/image'
import type { Box } from '@/core/path'

/** The longest side that canvases of all browsers take, px. */
export const MAX_SIDE = 16_384

/** How a file is written, beside its format. */
export interface FileOptions {
  readonly scale: number
  readonly transparent: boolean
  /** WebP: no loss at all; else the quality, 1 to 100. */
  readonly lossless: boolean
  readonly quality: number
  readonly codec: VideoCodec
  /** Of a sequence: the number of its first picture. */
  readonly firstNumber: number
  readonly sides: SheetSides
}
export const VIDEO_CODECS = { mp4: ['avc', 'av1'], webm: ['vp9', 'av1'] } as const
export type VideoCodec = (typeof VIDEO_CODECS)[keyof typeof VIDEO_CODECS][number]
/** Codecs by the names that people know. */
export const CODEC_NAMES: Readonly<Record<VideoCodec, string>> = { avc: 'H.264', av1: 'AV1', vp9: 'VP9' }

/** What an encoder is given. */
export interface EncodeJob {
  /** For the names of files within the file. */
  readonly name: string
  readonly width: number
  readonly height: number
  readonly timing: FileTiming
  readonly rate: Fraction
  readonly options: FileOptions
  /** Draws a frame of the file, by its number there. Opaque where the file is not to be transparent. */
  readonly draw: (n: number) => Promise<Picture>
  /** Is told how many frames have been written; may throw to stop. */
  readonly progress: (frames: number) => Promise<void>
}

export interface Encoded {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly type: string
  readonly ending: string
  /** Where the frames lie in the one picture that holds them all, where the file is an archive of it. */
  readonly sheet?: { readonly picture: Uint8Array<ArrayBuffer>; readonly cells: readonly Box[] }
}

/** A picture, or a part of it, as a PNG file. */
export async function pngOf(
  { width, height, data }: Picture,
  part = { x: 0, y: 0, width, height },
): Promise<Uint8Array<ArrayBuffer>> {
  const canvas = new OffscreenCanvas(part.width, part.height)
  const pixels = new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height)
  canvas.getContext('2d')?.putImageData(pixels, -part.x, -part.y, part.x, part.y, part.width, part.height)
  return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
}
