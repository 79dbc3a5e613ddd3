import type { Loop } from '@/core/document'
import { evaluate, exposures, type Look } from '@/core/evaluate'
import type { Picture } from '@/core/image'
import { Average } from './average'
import { Painter } from './draw'
import type { Context, MakeSurface, Pictures } from './painters/painter'

/** Draws frames of loops at one size, with the blur that the loop asks for. */
export class Renderer {
  protected readonly context: Context
  private readonly painter: Painter
  private sampler: Context | null = null

  /** @param context to draw on, of this size; one of its own where it is left out */
  constructor(
    readonly width: number,
    readonly height: number,
    private readonly makeSurface: MakeSurface,
    context?: Context,
  ) {
    this.context = context ?? makeSurface(width, height)
    this.painter = new Painter(width, height, makeSurface)
  }

  /** Draws a frame on the canvas. */
  draw(loop: Loop, frame: number, pictures?: Pictures, look: Look = evaluate): void {
    const moments = exposures(loop, frame)
    const [only] = moments
    if (moments.length === 1 && only !== undefined) {
      this.painter.drawList(this.context, look(loop, only), pictures)
      return
    }
    this.sampler ??= this.makeSurface(this.width, this.height)
    const average = new Average(this.width, this.height)
    for (const moment of moments) {
      this.painter.drawList(this.sampler, look(loop, moment), pictures)
      average.add(this.sampler.getImageData(0, 0, this.width, this.height))
    }
    const image = this.context.createImageData(this.width, this.height)
    image.data.set(average.picture().data)
    this.context.putImageData(image, 0, 0)
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
