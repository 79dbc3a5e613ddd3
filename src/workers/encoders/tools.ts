import type { Tools } from '@/codecs/write'
import { gifOnAllCores } from '../coding'

/** What writing needs, as a browser does it. */
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
  /** The server writes it, and keeps nothing. */
  async webpStill(png, { lossless, quality, exact }) {
    const query = new URLSearchParams({ lossless: String(lossless), quality: String(quality), exact: String(exact) })
    const answer = await fetch(`/api/webp?${query}`, { method: 'POST', body: png }).catch(() => null)
    if (!answer) throw new Error('The server that writes WebP cannot be reached. Try again, or choose another format.')
    if (!answer.ok) {
      const { message } = (await answer.json().catch(() => ({}))) as { message?: string }
      throw new Error(message ?? `The server could not write the WebP (${answer.status}).`)
    }
    return new Uint8Array(await answer.arrayBuffer())
  },
}
