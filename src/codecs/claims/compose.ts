import type { Picture } from '@/core/image'
import { pngChunk, pngFile } from '../png-chunk'
import type { PngFile, PngFrame } from './png'

/**
 * The frames of an APNG as a viewer shows them, from the pictures of their parts, one after the other: laid over or in
 * place of what is there, which is then left, cleared or taken back (PNG 3rd edition, § 11.3.6.2). Each is a copy.
 */
export async function* composeApng(
  { width, height, frames }: Pick<PngFile, 'width' | 'height' | 'frames'>,
  partOf: (frame: PngFrame) => Promise<Picture>,
): AsyncGenerator<Picture> {
  const canvas = new Uint8ClampedArray(width * height * 4)
  for (const [n, frame] of frames.entries()) {
    const part = await partOf(frame)
    const dispose = n === 0 && frame.dispose === 2 ? 1 : frame.dispose
    const before = dispose === 2 ? canvas.slice() : null
    for (let y = 0; y < frame.height; y++) {
      const to = ((frame.y + y) * width + frame.x) * 4
      const row = part.data.subarray(y * frame.width * 4, (y + 1) * frame.width * 4)
      if (frame.over) layOver(canvas, to, row)
      else canvas.set(row, to)
    }
    yield { width, height, data: canvas.slice() }
    if (before) canvas.set(before)
    else if (dispose === 1)
      for (let y = 0; y < frame.height; y++) {
        const to = ((frame.y + y) * width + frame.x) * 4
        canvas.fill(0, to, to + frame.width * 4)
      }
  }
}

/** Source over, straight alpha (PNG 3rd edition, § 13.16). */
function layOver(canvas: Uint8ClampedArray, to: number, row: Uint8ClampedArray): void {
  for (let i = 0; i < row.length; i += 4) {
    const above = (row[i + 3] as number) / 255
    const below = (canvas[to + i + 3] as number) / 255
    const alpha = above + below * (1 - above)
    for (let c = 0; c < 3; c++)
      canvas[to + i + c] =
        alpha > 0 ? ((row[i + c] as number) * above + (canvas[to + i + c] as number) * below * (1 - above)) / alpha : 0
    canvas[to + i + 3] = 255 * alpha
  }
}

/** A frame's part as a PNG file of its own. */
export function pngOfPart({ header, shared }: PngFile, { width, height, data }: PngFrame): Uint8Array {
  const ihdr = header.slice()
  const view = new DataView(ihdr.buffer)
  view.setUint32(0, width)
  view.setUint32(4, height)
  return pngFile([
    pngChunk('IHDR', ihdr),
    ...shared.map((each) => pngChunk(each.type, each.data)),
    ...data.map((part) => pngChunk('IDAT', part)),
    pngChunk('IEND', new Uint8Array(0)),
  ])
}
