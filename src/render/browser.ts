import type { Picture } from '@/core/image'
import { evaluate, exposures, type Look, type Loop } from '@/core/loop'
import { Average } from './average'
import { type Context, type MakeSurface, Painter, type Pictures } from './draw'

const surface =
  (willReadFrequently: boolean): MakeSurface =>
  (width, height) => {
    const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently })
    if (!context) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
    return context
  }

interface RendererOptions {
  /** Whether pixels are read back, rather than shown. */
  readonly forReading?: boolean
  /** A canvas of this size to draw on, in place of one of its own. */
  readonly context?: Context
}

/** Draws frames of loops at one size in a browser or worker, with the blur that the loop asks for. */
export class BrowserRenderer {
  private readonly context: Context
  private readonly painter: Painter
  private sampler: Context | null = null

  constructor(
    readonly width: number,
    readonly height: number,
    { forReading = false, context }: RendererOptions = {},
  ) {
    this.context = context ?? surface(forReading)(width, height)
    this.painter = new Painter(width, height, surface(forReading))
  }

  /** Draws a frame on the canvas. */
  draw(loop: Loop, frame: number, pictures?: Pictures, look: Look = evaluate): void {
    const moments = exposures(loop, frame)
    const [only] = moments
    if (moments.length === 1 && only !== undefined) {
      this.painter.draw(this.context, look(loop, only), pictures)
      return
    }
    this.sampler ??= surface(true)(this.width, this.height)
    const average = new Average(this.width, this.height)
    for (const moment of moments) {
      this.painter.draw(this.sampler, look(loop, moment), pictures)
      average.add(this.sampler.getImageData(0, 0, this.width, this.height))
    }
    const { data } = average.picture()
    this.context.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, this.width, this.height), 0, 0)
  }

  /** A frame as a bitmap that can be transferred. */
  bitmap(loop: Loop, frame: number, pictures?: Pictures, look?: Look): ImageBitmap {
    this.draw(loop, frame, pictures, look)
    return this.context.canvas.transferToImageBitmap()
  }

  /** A frame's pixels. */
  picture(loop: Loop, frame: number, pictures?: Pictures, look?: Look): Picture {
    this.draw(loop, frame, pictures, look)
    const { width, height, data } = this.context.getImageData(0, 0, this.width, this.height)
    return { width, height, data }
  }
}

/** The size of a frame scaled by a factor, at least 1×1 px. */
export const scaledSize = ({ width, height }: { width: number; height: number }, scale: number) => ({
  width: Math.max(1, Math.round(width * scale)),
  height: Math.max(1, Math.round(height * scale)),
})
