import type { Tools } from '@/codecs/write'
import { gifOnAllCores } from '../coding'

/**
 * A WebP that the browser writes itself: without loss where the quality is 1, as browsers that write it have it; the proof tells whether it is.
 * @throws Error where it writes none
 */
async function ownWebp(png: BlobPart, quality: number): Promise<Uint8Array<ArrayBuffer>> {
  const bitmap = await createImageBitmap(new Blob([png], { type: 'image/png' }))
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
  bitmap.close()
  const blob = await canvas.convertToBlob({ type: 'image/webp', quality })
  if (blob.type !== 'image/webp')
    throw new Error(
      'The server that writes WebP cannot be reached, and this browser writes none. Choose another format.',
    )
  return new Uint8Array(await blob.arrayBuffer())
}

/** Services for writing, as a browser implements them. */
export const browserTools: Tools = {
  gif: gifOnAllCores,
  clearColours: false,
  async png({ width, height, data }, { part = { x: 0, y: 0, width, height } } = {}) {
    const canvas = new OffscreenCanvas(part.width, part.height)
    const pixels = new ImageData(part.width, part.height)
    for (let y = 0; y < part.height; y++) {
      const from = 4 * ((part.y + y) * width + part.x)
      pixels.data.set(data.subarray(from, from + 4 * part.width), 4 * y * part.width)
    }
    canvas.getContext('2d')?.putImageData(pixels, 0, 0)
    return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer())
  },
  /** The server writes it, and keeps nothing; where that cannot be reached, the browser does, if it can. */
  async webpStill(png, { lossless, quality, exact }) {
    const query = new URLSearchParams({ lossless: String(lossless), quality: String(quality), exact: String(exact) })
    const answer = await fetch(`/api/webp?${query}`, { method: 'POST', body: png }).catch(() => null)
    if (!answer) return ownWebp(png, lossless ? 1 : quality / 100)
    if (!answer.ok) {
      const { message } = (await answer.json().catch(() => ({}))) as { message?: string }
      throw new Error(message ?? `The server could not write the WebP (${answer.status}).`)
    }
    return new Uint8Array(await answer.arrayBuffer())
  },
}
