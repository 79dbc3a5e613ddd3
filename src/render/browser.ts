import type { Picture } from '@/core/image'
import type { DisplayList } from '@/core/loop'
import { type Context, type MakeSurface, Painter } from './draw'

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

/** Draws display lists at one size in a browser or worker. */
export class BrowserRenderer {
  private readonly context: Context
  private readonly painter: Painter

  constructor(
    readonly width: number,
    readonly height: number,
    { forReading = false, context }: RendererOptions = {},
  ) {
    this.context = context ?? surface(forReading)(width, height)
    this.painter = new Painter(width, height, surface(forReading))
  }

  /** Draws the frame on the canvas. */
  draw(list: DisplayList): void {
    this.painter.draw(this.context, list)
  }

  /** The frame as a bitmap that can be transferred. */
  bitmap(list: DisplayList): ImageBitmap {
    this.draw(list)
    return this.context.canvas.transferToImageBitmap()
  }

  /** The frame's pixels. */
  picture(list: DisplayList): Picture {
    this.draw(list)
    const { width, height, data } = this.context.getImageData(0, 0, this.width, this.height)
    return { width, height, data }
  }
}

/** The size of a frame scaled by a factor, at least 1×1 px. */
export const scaledSize = ({ width, height }: { width: number; height: number }, scale: number) => ({
  width: Math.max(1, Math.round(width * scale)),
  height: Math.max(1, Math.round(height * scale)),
})
