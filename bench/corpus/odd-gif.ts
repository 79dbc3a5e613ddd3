import { GifWriter } from 'omggif'
import type { Picture } from '@/core/image'

/** A GIF that uses what the format allows, and the frames that a viewer shows of it. */
export interface OddGif {
  readonly bytes: Uint8Array<ArrayBuffer>
  readonly frames: readonly Picture[]
  /** Hundredths of a second. */
  readonly delaysCs: readonly number[]
}

/** Seeded numbers from 0 to 1: Park and Miller's minimal standard generator. */
function random(seed: number): () => number {
  let state = (seed % 2147483646) + 1
  return () => {
    state = (state * 48271) % 2147483647
    return state / 2147483647
  }
}

/**
 * Frames that cover a part of the picture only, each with a palette of its own, see-through pixels, an odd delay and any of
 * the four disposal methods of GIF89a: none said, left, restored to clear, restored to what was there before.
 */
export function oddGif(seed: number, { width = 40, height = 32, count = 14 } = {}): OddGif {
  const next = random(seed)
  const whole = (below: number) => Math.floor(next() * below)
  const buffer = new Uint8Array(width * height * count * 2 + 4096 * count)
  const writer = new GifWriter(buffer, width, height, { loop: 0 })
  const shown = new Uint8ClampedArray(width * height * 4)
  const [frames, delaysCs]: [Picture[], number[]] = [[], []]
  for (let n = 0; n < count; n++) {
    const first = n === 0
    const [w, h] = first ? [width, height] : [1 + whole(width), 1 + whole(height)]
    const [x, y] = first ? [0, 0] : [whole(width - w + 1), whole(height - h + 1)]
    const palette = Array.from({ length: 16 }, () => (whole(256) << 16) | (whole(256) << 8) | whole(256))
    const pixels = Array.from({ length: w * h }, (_, i) => (Math.floor(i / 5) + whole(3)) % 16)
    const transparent = first ? null : whole(16)
    const disposal = whole(4)
    const delay = [2, 3, 7, 50][whole(4)] as number
    const before = shown.slice()
    writer.addFrame(x, y, w, h, pixels, { palette, delay, disposal, ...(transparent === null ? {} : { transparent }) })
    const each = (paint: (to: number, from: number) => void) => {
      for (let i = 0; i < w * h; i++) paint(4 * ((y + Math.floor(i / w)) * width + x + (i % w)), i)
    }
    each((to, from) => {
      const index = pixels[from] as number
      const rgb = palette[index] as number
      if (index !== transparent) shown.set([rgb >> 16, (rgb >> 8) & 255, rgb & 255, 255], to)
    })
    frames.push({ width, height, data: shown.slice() })
    delaysCs.push(delay)
    if (disposal === 2) each((to) => shown.fill(0, to, to + 4))
    if (disposal === 3) shown.set(before)
  }
  return { bytes: buffer.slice(0, writer.end()), frames, delaysCs }
}
