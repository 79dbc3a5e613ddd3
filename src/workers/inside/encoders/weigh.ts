import { type EncodeJob, keptOf } from '@/codecs/write'
import type { FileFormat } from '@/core/clock'
import type { Loop } from '@/core/document'
import type { Picture } from '@/core/image'
import {
  backgroundIn,
  estimateSize,
  type FileSettings,
  isVector,
  sampleStarts,
  seeThrough,
  timingIn,
  type Weighed,
  type WrittenStretch,
} from '@/core/output'
import { scaledSize } from '@/render/browser'
import { ENCODERS } from './index'
import { readBack } from './prove'
import { browserTools } from './tools'

/** Stretches of a file that are written to weigh it, frames of each, and the share by which an estimate may be off at least. */
const STRETCHES = { count: 4, one: 1, frames: 3, leastOff: 0.05 }
/** The same where an encoder saves for many frames after a first one that was dear: fewer and longer ones, of which the end counts. */
const LONG_STRETCHES = { count: 2, one: 16, frames: 24, leastOff: 0.5 }
const SAVES_LONG: readonly FileFormat[] = ['avif', 'mp4', 'webm']
/** Files of at most this many frames are written whole. */
const WHOLE = 30
/** Appearance is compared at most at this width, px. */
const MAX_COMPARED_PX = 480

/** Draws a frame of a loop at a size. */
export type DrawAt = (loop: Loop, frame: number, width: number, height: number) => Promise<Picture>

export interface WeighedPicture extends Weighed {
  /** A frame as it is seen in the file. */
  readonly shown: ImageBitmap | null
}

/** A picture on mid-grey, at another size. */
function seen({ width, height, data }: Picture, size: { width: number; height: number }): Uint8ClampedArray {
  const own = new OffscreenCanvas(width, height)
  own.getContext('2d')?.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0)
  const context = new OffscreenCanvas(size.width, size.height).getContext('2d', { willReadFrequently: true })
  if (!context) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
  context.fillStyle = '#808080'
  context.fillRect(0, 0, size.width, size.height)
  context.imageSmoothingQuality = 'high'
  context.drawImage(own, 0, 0, size.width, size.height)
  return context.getImageData(0, 0, size.width, size.height).data
}

/**
 * Weight of a file of a loop, from a few stretches that are written, and its distance from the loop: root mean square
 * difference of each frame of the loop in those stretches from the file's picture at that time.
 * @param how by weight alone, compared too, or written whole, so that the weight is no estimate
 */
export async function weigh(
  loop: Loop,
  settings: FileSettings,
  draw: DrawAt,
  how: 'weight' | 'compared' | 'whole',
): Promise<WeighedPicture> {
  const compare = how !== 'weight'
  const once = { ...settings, repeats: 1 }
  const { width, height } = scaledSize(loop, settings.scale)
  const background = backgroundIn(loop, settings)
  const shown = { ...loop, background }
  const timing = timingIn(loop, once)
  const count = timing.frames.length
  const write = (start: number, frames: number) => {
    const part = {
      ...timing,
      frames: timing.frames.slice(start, start + frames),
      delays: timing.delays.slice(start, start + frames),
    }
    const job: EncodeJob = {
      loop: shown,
      name: 'sample',
      width,
      height,
      timing: part,
      wholeCount: count,
      rate: loop.rate,
      settings: once,
      transparent: seeThrough(background),
      tools: browserTools,
      mostKept: keptOf(width, height),
      progress: async () => {},
      draw: (n) => draw(shown, part.frames[n] as number, width, height),
    }
    return ENCODERS[settings.format](job)
  }
  const size = scaledSize(loop, Math.min(1, MAX_COMPARED_PX / loop.width))
  let sum = 0
  let pixels = 0
  let picture = null as ImageBitmap | null
  const look = async (encoded: Awaited<ReturnType<typeof write>>, start: number) => {
    let n = start
    for await (const found of (await readBack(encoded, { name: 'sample', settings: once })).frames) {
      const data = seen(found, size)
      const next = n + 1 < count ? (timing.frames[n + 1] as number) : loop.length
      for (let frame = timing.frames[n] as number; frame < next; frame++) {
        const wanted = seen(await draw(shown, frame, size.width, size.height), size)
        for (let i = 0; i < data.length; i++) sum += ((data[i] as number) - (wanted[i] as number)) ** 2
        pixels += data.length * 0.75
      }
      picture ??= await createImageBitmap(
        new ImageData(data as Uint8ClampedArray<ArrayBuffer>, size.width, size.height),
      )
      n++
    }
  }
  const samples: WrittenStretch[] = []
  const stretches = SAVES_LONG.includes(settings.format) ? LONG_STRETCHES : STRETCHES
  const whole = how === 'whole' || count <= WHOLE || isVector(settings.format)
  for (const start of whole ? [0] : sampleStarts(count, stretches.count, stretches.frames)) {
    const frames = whole ? count : stretches.frames
    const many = await write(start, frames)
    if (compare && !isVector(settings.format)) await look(many, start)
    const one = whole ? many : await write(start, stretches.one)
    samples.push({ one: one.bytes.length, many: many.bytes.length, frames, oneFrames: whole ? frames : stretches.one })
  }
  const [only] = samples as [WrittenStretch]
  const estimate = whole ? { bytes: only.many, uncertainty: 0 } : estimateSize(samples, count, stretches.leastOff)
  // Repeats weigh as often, but for what compresses across them: that is not counted on.
  const times = isVector(settings.format) ? 1 : settings.repeats
  return {
    settings,
    shown: picture,
    error: pixels > 0 ? Math.sqrt(sum / pixels) : 0,
    bytes: estimate.bytes * times,
    uncertainty: estimate.uncertainty * times,
  }
}
