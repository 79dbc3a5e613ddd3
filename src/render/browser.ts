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

/** Draws display lists at one size in a browser or worker. */
export class BrowserRenderer {
  private readonly context: Context
  private readonly painter: Painter

  /** @param forReading whether pixels are read back, rather than shown */
  constructor(
    readonly width: number,
    readonly height: number,
    forReading = false,
  ) {
    this.context = surface(forReading)(width, height)
    this.painter = new Painter(width, height, surface(forReading))
  }

  /** The frame as a bitmap that can be transferred. */
  bitmap(list: DisplayList): ImageBitmap {
    this.painter.draw(this.context, list)
    return this.context.canvas.transferToImageBitmap()
  }

  /** The frame's pixels. */
  picture(list: DisplayList): Picture {
    this.painter.draw(this.context, list)
    return this.context.getImageData(0, 0, this.width, this.height)
  }
}

/** The size of a frame scaled by a factor, at least 1×1 px. */
export const scaledSize = ({ width, height }: { width: number; height: number }, scale: number) => ({
  width: Math.max(1, Math.round(width * scale)),
  height: Math.max(1, Math.round(height * scale)),
})
