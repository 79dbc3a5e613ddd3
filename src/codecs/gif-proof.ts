import type { Picture } from '@/core/image'
import { decodeGif } from './gif-decode'
import { type Proof, proveFile } from './proof'

/** What was meant to be written. */
export interface GifPromise {
  readonly width: number
  readonly height: number
  readonly delaysCs: readonly number[]
  /** The frame that was drawn, by its number in the file. */
  readonly frame: (n: number) => Picture | Promise<Picture>
  readonly transparent: boolean
}

/**
 * Reads a GIF back, with a decoder that is not its encoder, and holds it against what was meant to be written.
 * @param progress is told how many frames have been compared, and may throw to stop
 * @throws GifError when the file cannot be read at all.
 */
export async function proveGif(
  bytes: Uint8Array,
  promise: GifPromise,
  progress?: (frames: number) => void | Promise<void>,
): Promise<Proof> {
  const { delaysCs, ...file } = decodeGif(bytes)
  const ms = (delays: readonly number[]) => delays.map((delay) => 10 * delay)
  return proveFile(
    bytes.length,
    { ...file, delaysMs: ms(delaysCs), frames: file.frames() },
    {
      ...promise,
      delaysMs: ms(promise.delaysCs),
      toleranceMs: 0,
      frames: promise.delaysCs.length,
      pixels: 'palette',
    },
    progress,
  )
}
