import type { Loop } from '@/core/document'
import type { Look } from '@/core/evaluate'
import type { Context, MakeSurface, Pictures } from './painters/painter'
import { Renderer } from './renderer'

export { scaledSize } from './renderer'

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

/** Draws frames of loops at one size in a browser or worker. */
export class BrowserRenderer extends Renderer {
  constructor(width: number, height: number, { forReading = false, context }: RendererOptions = {}) {
    super(width, height, surface(forReading), context)
  }

  /** A frame for an encoder of video, which takes it as it was drawn: its pixels are not read back. */
  videoFrame(loop: Loop, frame: number, pictures?: Pictures): VideoFrame {
    this.draw(loop, frame, pictures)
    return new VideoFrame(this.context.canvas, { timestamp: 0 })
  }

  /** A frame as a bitmap that can be transferred. */
  bitmap(loop: Loop, frame: number, pictures?: Pictures, look?: Look): ImageBitmap {
    this.draw(loop, frame, pictures, look)
    return this.context.canvas.transferToImageBitmap()
  }
}
