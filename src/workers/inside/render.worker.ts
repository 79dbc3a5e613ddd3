import { expose, type ProxyMarked, proxy, transfer } from 'comlink'
import type { Loop } from '@/core/document'
import { evaluateUnreduced } from '@/core/evaluate'
import { type DeepPicture, type DifferenceKind, difference, type Picture } from '@/core/image'
import { BrowserRenderer } from '@/render/browser'
import { painted, paintedWhole } from '@/render/prepare'
import { serve } from '../shared/serve'
import { type FramesStatus, Screen } from './screen'
import { SharedFrames, shareable } from './shared-frames'

let reader: BrowserRenderer | null = null

/** A renderer of frames at a size in px, to be read back or encoded. */
function readerAt(width: number, height: number): BrowserRenderer {
  if (reader?.width !== width || reader.height !== height)
    reader = new BrowserRenderer(width, height, { forReading: true })
  return reader
}

/** The pixels of a frame of the ring, whole or fractional, at a size in px. */
const picture = (loop: Loop, frame: number, width: number, height: number): Promise<Picture> =>
  paintedWhole(loop, frame, (pictures) => readerAt(width, height).picture(loop, frame, pictures))

/** Where one file takes its frames from. */
export interface FrameLane {
  /** A frame of the loop; `at` is how far the file is with it, null out of turn. */
  readonly take: (frame: number, at: number | null) => Promise<Picture>
  /** Whether its frames are drawn for this file only. */
  readonly alone: boolean
  /** The same frame for an encoder of video. */
  readonly videoFrame: (frame: number) => Promise<VideoFrame>
  /** A frame of another loop at the same size, such as a pass of this one. Its files are those of the loop. */
  readonly other: (loop: Loop, frame: number) => Promise<Picture>
  /** A frame of a loop of nothing but models at the same size, in numbers. */
  readonly deep: (loop: Loop, frame: number, measured: boolean) => Promise<DeepPicture>
  readonly leave: () => void
}

/** Functions that release each lane. */
let leaveLane: (() => void)[] = []

const service = {
  /**
   * Draws the frames of a loop at one size for several files at a time, each through its own port. Frames are kept up
   * to `ceiling` bytes for all of them; frames for a single file go to it directly.
   */
  lanes(loop: Loop, width: number, height: number, ceiling: number, ports: readonly MessagePort[]): void {
    leaveLane = []
    const fit = Math.max(2, Math.floor(ceiling / (width * height * 4)))
    const own = async (other: Loop, frame: number) => {
      const drawn = await picture(other, frame, width, height)
      return transfer(drawn, [drawn.data.buffer])
    }
    const draw = async (frame: number) => shareable(await picture(loop, frame, width, height))
    const shared = new SharedFrames(draw, fit, loop.length)
    for (const port of ports) {
      const taker = shared.join()
      const lane: FrameLane = {
        take: (frame, at) => (ports.length === 1 ? own(loop, frame) : shared.take(taker, frame, at)),
        alone: ports.length === 1,
        videoFrame: async (frame) => {
          const drawn = await paintedWhole(loop, frame, (pictures) =>
            readerAt(width, height).videoFrame(loop, frame, pictures),
          )
          return transfer(drawn, [drawn])
        },
        other: (other, frame) => own(other, frame),
        deep: async (other, frame, measured) => {
          // Comes when the first such pass is written.
          const { deepPicture } = await import('@/render/models/deep')
          const drawn = await deepPicture(other, frame, width, height, measured)
          return transfer(drawn, [drawn.data.buffer])
        },
        leave: () => shared.leave(taker),
      }
      leaveLane.push(lane.leave)
      expose(lane, port)
    }
  },

  /** The file at a place has ended, however it did: the others wait for it no longer. */
  leave(place: number): void {
    leaveLane[place]?.()
  },

  /**
   * Takes over a canvas of the page.
   * @param ceiling bytes that its kept frames may take
   * @param tellPage is told what becomes of the frames
   * @param ahead whether frames are drawn ahead while it stands still, too
   */
  screen(
    canvas: OffscreenCanvas,
    ceiling: number,
    tellPage: (status: FramesStatus) => void,
    ahead: boolean,
  ): Screen & ProxyMarked {
    return proxy(new Screen(canvas, ceiling, tellPage, ahead))
  },

  /** The pixels of a frame of the ring, whole or fractional, at a size in px; they are transferred. */
  async picture(loop: Loop, frame: number, width: number, height: number): Promise<Picture> {
    const drawn = await picture(loop, frame, width, height)
    return transfer(drawn, [drawn.data.buffer])
  },

  /** The picture at an unreduced frame, `length` being the closing frame, at a size in px; the bitmap is transferred. */
  async bitmap(loop: Loop, frame: number, width: number, height: number): Promise<ImageBitmap> {
    const bitmap = await painted(
      loop,
      frame,
      (pictures) => new BrowserRenderer(width, height).bitmap(loop, frame, pictures, evaluateUnreduced),
      evaluateUnreduced,
    )
    return transfer(bitmap, [bitmap])
  },

  /** Difference of two unreduced frames, times a gain, at a size in px; the bitmap is transferred. */
  async difference(
    loop: Loop,
    a: number,
    b: number,
    how: { readonly gain: number; readonly kind: DifferenceKind },
    width: number,
    height: number,
  ): Promise<ImageBitmap> {
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const look = (n: number) =>
      painted(loop, n, (pictures) => renderer.picture(loop, n, pictures, evaluateUnreduced), evaluateUnreduced)
    const { data } = difference(await look(a), await look(b), how.gain, how.kind)
    const bitmap = await createImageBitmap(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height))
    return transfer(bitmap, [bitmap])
  },
}

export type RenderService = typeof service
serve(service)
