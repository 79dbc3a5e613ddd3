import { type Proof, proveFile } from '@/codecs'
import { toNumber } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import { backgroundIn, type FileSettings, inexpressible, seeThrough, type VectorFormat } from '@/core/output'
import { scaledSize } from '@/render/browser'
import { reader } from '../clip-frames/reader'
import type { VectorViewer } from '../read-vector'

/** At most so many moments of a vector file are looked at: each is drawn by the page itself. */
const MOMENTS = 48
/** Edges that are smoothed otherwise put spots off by less, of 255: up to 26 of the demo loops, at sizes from 0.25 to 2. */
const SPOTS = 40

/**
 * Reads a vector file back: the browser, or a player of Lottie, draws it at moments spread over the loop, which are held
 * against the frames there.
 * @param frame draws a frame of the loop on its ground, at the size of the file
 */
export async function proveVector(
  bytes: Uint8Array,
  loop: Loop,
  settings: FileSettings,
  viewer: VectorViewer,
  frame: (n: number) => Promise<Picture>,
  progress: (share: number) => void | Promise<void>,
): Promise<Proof> {
  const format = settings.format as VectorFormat
  const shown = await viewer.open(new TextDecoder().decode(bytes), format)
  const count = Math.min(MOMENTS, loop.length)
  const moments = Array.from({ length: count }, (_, i) => Math.round((i * loop.length) / count))
  const seconds = (loop.length * loop.rate.den) / loop.rate.num
  const size = scaledSize(loop, settings.scale)
  const read = reader(size.width, size.height)
  try {
    const proof = await proveFile(
      bytes.length,
      {
        width: Math.round(shown.width),
        height: Math.round(shown.height),
        playsForever: null,
        delaysMs: [1000 * shown.seconds],
        frames: (async function* () {
          for (const n of moments) {
            const bitmap = await viewer.at(n / toNumber(loop.rate) + 1e-5, size.width, size.height)
            const picture = read((context) => context.drawImage(bitmap, 0, 0))
            bitmap.close()
            yield picture
          }
        })(),
      },
      {
        ...size,
        delaysMs: null,
        toleranceMs: 0.1,
        frames: count,
        pixels: 'near',
        // Where something was named beforehand as left out, spots are off by that.
        ...(inexpressible(loop, format).length === 0 ? { spots: SPOTS } : {}),
        frame: (n) => frame(moments[n] as number),
        transparent: seeThrough(backgroundIn(loop, settings)),
      },
      (n) => progress(n / count),
    )
    const found = shown.seconds
    // What stands still altogether has no duration, and needs none.
    const time = {
      what: 'time of one loop',
      expected: `${seconds.toFixed(2)} s`,
      found: found === 0 ? 'still' : `${found.toFixed(2)} s`,
      holds: found === 0 ? proof.seam.verdict === 'still' : Math.abs(found - seconds) < 1e-4,
    }
    const lines = [
      ...proof.lines.map((line) => (line.what === 'frames' ? { ...line, what: 'moments looked at' } : line)),
      time,
    ]
    return { ...proof, lines, holds: lines.every(({ holds }) => holds) }
  } finally {
    await viewer.close()
  }
}
