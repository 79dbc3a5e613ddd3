import type { FileTiming, Fraction } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { DeepPicture, Picture } from '@/core/image'
import type { FileSettings } from '@/core/output'
import type { Box } from '@/core/path'
import type { GifCoder } from '../gif-write'
import type { StillOptions } from '../webp-still'

/** Services for writing that browser and Node implement differently. */
export interface Tools {
  /** A picture, or a part of it, as a PNG file; what is opaque may be written without alpha, and what is clear as a colour that stands for it. */
  readonly png: (
    picture: Picture,
    how?: { readonly part?: Box; readonly opaque?: boolean; readonly clearAs?: number; readonly passing?: boolean },
  ) => Promise<Uint8Array<ArrayBuffer>>
  /** True if it can replace clear pixels by a colour; otherwise it takes an alpha channel. */
  readonly clearColours: boolean
  /** A PNG file as a WebP file. @throws Error in words */
  readonly webpStill: (png: Uint8Array<ArrayBuffer>, how: StillOptions) => Promise<Uint8Array<ArrayBuffer>>
  /** Does frames of a GIF beside each other; where it is left out, they are done one after the other. */
  readonly gif?: GifCoder
}

/** Input of an encoder. */
export interface EncodeJob {
  /** On its ground in the file. */
  readonly loop: Loop
  /** For the names of files within the file. */
  readonly name: string
  readonly width: number
  readonly height: number
  readonly timing: FileTiming
  /** Frames of the whole file, where only a part of it is written to weigh it. */
  readonly wholeCount?: number
  readonly rate: Fraction
  readonly settings: FileSettings
  /** Whether something of what lies behind the file is to be seen. */
  readonly transparent: boolean
  /** Draws a frame of the file, by its number there: the picture, or a pass of it. */
  readonly draw: (n: number, pass?: string) => Promise<Picture>
  /** The same of a pass of models in numbers, measured or from 0 to 1, where such can be drawn. */
  readonly deep?: (n: number, pass: string, measured: boolean) => Promise<DeepPicture>
  /** Is told how many frames have been written; may throw to stop. */
  readonly progress: (frames: number) => Promise<void>
  readonly tools: Tools
  /** Pictures that may be kept for the proof. */
  readonly mostKept: number
}

/** Pictures of a size that are kept while a file is written, so that they need not be drawn again: 64 MB of them. */
export const keptOf = (width: number, height: number): number => Math.floor((64 * 1024 * 1024) / (width * height * 4))

export interface Encoded {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly type: string
  /** Where the frames lie in the one picture that holds them all, where the file is an archive of it. */
  readonly sheet?: { readonly picture: Uint8Array<ArrayBuffer>; readonly cells: readonly Box[] }
  /** A remark from writing, as a sentence. */
  readonly note?: string
}
