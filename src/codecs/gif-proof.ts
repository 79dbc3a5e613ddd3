import { decodeGif } from './gif-decode'
import type { FilePromise } from './promise'
import { type Proof, proveFile } from './proof'

/**
 * Reads a GIF back, with a decoder that is not its encoder, and holds it against what was meant to be written.
 * @param progress is told how many frames have been compared, and may throw to stop
 * @throws GifError when the file cannot be read at all.
 */
export async function proveGif(
  bytes: Uint8Array,
  promise: FilePromise,
  progress?: (frames: number) => void | Promise<void>,
): Promise<Proof> {
  const { delaysCs, ...file } = decodeGif(bytes)
  const delaysMs = delaysCs.map((delay) => 10 * delay)
  return proveFile(bytes.length, { ...file, delaysMs, frames: file.frames() }, promise, progress)
}
