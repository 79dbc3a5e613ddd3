import { expose, transfer } from 'comlink'
import { evaluate, evaluateUnreduced, type Loop } from '@/core/loop'
import { BrowserRenderer } from '@/render/browser'

/** Draws frames of one loop at a time, off the main thread; keeps them, and shows them on a canvas of the page. */
let loop: Loop | null = null
let renderer: BrowserRenderer | null = null
let screen: OffscreenCanvasRenderingContext2D | null = null
const kept = new Map<number, ImageBitmap>()

function drawBitmap(frame: number, width: number, height: number, reduced: boolean): ImageBitmap {
  if (!loop) throw new Error('no loop to draw')
  if (renderer?.width !== width || renderer.height !== height) renderer = new BrowserRenderer(width, height)
  return renderer.bitmap(reduced ? evaluate(loop, frame) : evaluateUnreduced(loop, frame))
}

function clear() {
  for (const bitmap of kept.values()) bitmap.close()
  kept.clear()
}

const service = {
  /** Takes over a canvas of the page; frames that are kept are shown on it, at its size. */
  attach(canvas: OffscreenCanvas): void {
    screen = canvas.getContext('2d')
  },

  /** The loop to draw, and the size of its frames in px; what was kept is dropped. */
  setLoop(next: Loop, width = 1, height = 1): void {
    loop = next
    clear()
    if (screen && (screen.canvas.width !== width || screen.canvas.height !== height)) {
      screen.canvas.width = width
      screen.canvas.height = height
    }
  },

  /** Draws a frame of the ring, if it is not kept already, and keeps it. */
  keep(frame: number): void {
    if (screen && !kept.has(frame)) kept.set(frame, drawBitmap(frame, screen.canvas.width, screen.canvas.height, true))
  },

  /** Shows a frame of the ring on the canvas; returns when that was done, in ms since the time origin of all clocks. */
  present(frame: number): number {
    service.keep(frame)
    const bitmap = kept.get(frame)
    if (screen && bitmap) {
      screen.globalCompositeOperation = 'copy'
      screen.drawImage(bitmap, 0, 0)
    }
    return performance.timeOrigin + performance.now()
  },

  /** Drops a kept frame. */
  drop(frame: number): void {
    kept.get(frame)?.close()
    kept.delete(frame)
  },

  /** The picture at an unreduced frame, `length` being the closing frame, at a size in px; the bitmap is transferred. */
  frame(frame: number, width: number, height: number): ImageBitmap {
    const bitmap = drawBitmap(frame, width, height, false)
    return transfer(bitmap, [bitmap])
  },
}

export type RenderService = typeof service
expose(service)
