import { expose, transfer } from 'comlink'
import { evaluateUnreduced, type Loop } from '@/core/loop'
import { BrowserRenderer } from '@/render/browser'

/** Draws frames of one loop at a time, off the main thread. */
const service = {
  loop: null as Loop | null,
  renderer: null as BrowserRenderer | null,

  setLoop(loop: Loop): void {
    service.loop = loop
  },

  /** The picture at an unreduced frame, `length` being the closing frame, at a size in px; the bitmap is transferred. */
  frame(frame: number, width: number, height: number): ImageBitmap {
    if (!service.loop) throw new Error('no loop to draw')
    if (service.renderer?.width !== width || service.renderer.height !== height)
      service.renderer = new BrowserRenderer(width, height)
    const bitmap = service.renderer.bitmap(evaluateUnreduced(service.loop, frame))
    return transfer(bitmap, [bitmap])
  },
}

export type RenderService = Pick<typeof service, 'setLoop' | 'frame'>
expose(service)
