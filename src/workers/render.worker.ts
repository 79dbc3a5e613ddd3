import { expose, type ProxyMarked, proxy, transfer } from 'comlink'
import { frameMs, framesDue, PaceMeter, type Playback } from '@/core/clock'
import { type Loop, withFaces } from '@/core/document'
import { evaluateUnreduced } from '@/core/evaluate'
import { type DifferenceKind, difference, type Picture } from '@/core/image'
import { BrowserRenderer } from '@/render/browser'
import type { Pictures } from '@/render/draw'
import { cachedSize, FrameCache } from '@/render/frame-cache'
import { allPicturesAt, missingAt, picturesAt } from '@/render/pictures'
import { serve } from './serve'
import { SharedFrames, shareable } from './shared-frames'
import { breathe, sharedNow } from './timing'

/** What the page is told of its frames. */
export interface FramesStatus {
  /** For each frame of the loop, 1 where it is drawn and kept. */
  readonly cached: Uint8Array
  /** Frames per second over the last second, and the frames that were due but never shown; null while it stands still. */
  readonly measured: { readonly rate: number; readonly missed: number } | null
  /** What went wrong since the page was last told; null where nothing did. */
  readonly problem: string | null
  /** Ids of the stills and clips that the shown frame has holes for. */
  readonly missing: readonly string[]
}

/** A pause after which the frames around the playhead are drawn ahead, ms. */
const QUIET_MS = 350
/** The page is told at most so often, ms. */
const TELL_MS = 200
/** The pace is measured anew so often, ms. */
const MEASURE_MS = 500
/** Pictures that are closed between two others that are drawn. */
const CLOSE_AT_ONCE = 4

/**
 * Draws the frames of one loop, keeps them and shows them on a canvas of the page. Playing runs here by this thread's
 * own clock, so that it keeps its pace whatever the page is doing, and takes none of its time.
 */
class Screen {
  private readonly cache = new FrameCache<ImageBitmap>()
  private readonly context: OffscreenCanvasRenderingContext2D
  private shown: BrowserRenderer | null = null
  private kept: BrowserRenderer | null = null
  private loop: Loop | null = null
  private pictures: Pictures = new Map()
  private playhead = 0
  private version = 0
  private filling = false
  /** The version of which a frame could not be drawn ahead. */
  private unfillable = -1
  private quiet: ReturnType<typeof setTimeout> | undefined
  private telling: ReturnType<typeof setTimeout> | undefined
  private request = 0
  private measured: FramesStatus['measured'] = null
  private problem: string | null = null
  private missing: readonly string[] = []

  constructor(
    canvas: OffscreenCanvas,
    private readonly ceiling: number,
    private readonly tellPage: (status: FramesStatus) => void,
  ) {
    const context = canvas.getContext('2d')
    if (!context) throw new Error('This browser gives no 2D canvas. Cyclon needs one to draw.')
    this.context = context
  }

  /**
   * Takes another loop, or width in device pixels. A frame of it is drawn at once, the others when nothing has changed for
   * a while. Returns when it was drawn, by the shared clock.
   */
  async setLoop(loop: Loop, shownWidth: number, frame: number): Promise<number> {
    const pictures = await picturesAt(await withFaces(loop), frame)
    const { canvas } = this.context
    const { width, height, capacity } = cachedSize(loop, shownWidth, this.ceiling)
    this.loop = loop
    this.pictures = pictures
    this.version++
    clearTimeout(this.quiet)
    this.quiet = setTimeout(() => {
      this.quiet = undefined
      void this.fill()
    }, QUIET_MS)
    this.cache.reset(loop.length, capacity)
    if (this.shown?.width !== width || this.shown.height !== height) {
      canvas.width = width
      canvas.height = height
      this.shown = new BrowserRenderer(width, height, { context: this.context })
      this.kept = new BrowserRenderer(width, height)
    }
    const at = await this.present(frame)
    this.tell()
    return at
  }

  /** Shows a frame of the ring: the one that is kept, or a fresh drawing. Returns when it was drawn. */
  async present(frame: number): Promise<number> {
    await this.show(frame)
    return sharedNow()
  }

  private async show(frame: number): Promise<void> {
    this.playhead = frame
    const { loop, version } = this
    if (!loop) return
    if (!this.quiet) void this.fill()
    const bitmap = this.cache.get(frame)
    if (!bitmap) {
      this.pictures = await picturesAt(loop, frame)
      this.missing = missingAt(loop, frame, this.pictures)
      if (version === this.version && frame === this.playhead) this.shown?.draw(loop, frame, this.pictures)
      return
    }
    this.context.resetTransform()
    this.context.globalCompositeOperation = 'copy'
    this.context.drawImage(bitmap, 0, 0)
  }

  /** Plays until stop() is called; another loop in between is played on. */
  play(playback: Playback): void {
    cancelAnimationFrame(this.request)
    const meter = new PaceMeter(sharedNow())
    let [last, missed, measuredAt] = [-1, 0, sharedNow()]
    let aligned = playback
    const tick = (time: number) => {
      this.request = requestAnimationFrame(tick)
      const now = performance.timeOrigin + time
      // Ticks fall into the middle of frames, so that their jitter does not show one twice and skip the next.
      if (last < 0) aligned = { ...playback, startedAt: now - Math.min(frameMs(playback) / 2, 8) }
      const due = framesDue(aligned, now)
      if (due !== last) {
        if (last >= 0) missed += due - last - 1
        last = due
        this.show(playback.order[(playback.first + due) % playback.order.length] ?? 0).catch((error) =>
          this.fail(error),
        )
        meter.shown(now)
      }
      if (now - measuredAt < MEASURE_MS) return
      measuredAt = now
      const rate = meter.rate(now)
      this.measured = rate === null ? null : { rate, missed }
      this.tell()
    }
    this.request = requestAnimationFrame(tick)
  }

  stop(): void {
    cancelAnimationFrame(this.request)
    this.measured = null
    this.tell()
  }

  /** Lets go of everything. */
  end(): void {
    cancelAnimationFrame(this.request)
    clearTimeout(this.quiet)
    clearTimeout(this.telling)
    this.version++
    this.cache.reset(0, 0)
    while (this.cache.closeSome(CLOSE_AT_ONCE));
  }

  /** Draws and keeps frames from the playhead on, until all that fit are there or the loop has changed. */
  private async fill(): Promise<void> {
    if (this.filling) return
    this.filling = true
    try {
      await this.fillMissing()
    } catch (error) {
      this.unfillable = this.version
      this.fail(error)
    } finally {
      this.filling = false
    }
  }

  private async fillMissing(): Promise<void> {
    const { version } = this
    while (version === this.version && this.unfillable !== version) {
      await breathe()
      const others = this.cache.closeSome(CLOSE_AT_ONCE)
      const frame = this.cache.nextMissing(this.playhead)
      if (frame === null && !others) break
      if (frame === null || !this.loop || !this.kept) continue
      const pictures = await picturesAt(this.loop, frame)
      if (version !== this.version) break
      this.cache.put(frame, this.kept.bitmap(this.loop, frame, pictures), this.playhead)
      this.tell()
    }
  }

  /** Says what went wrong where nobody waits for an answer; the next frame is tried all the same. */
  private fail(error: unknown): void {
    this.problem = error instanceof Error ? error.message : String(error)
    this.tell()
  }

  private tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = undefined
      const { problem } = this
      this.problem = null
      this.tellPage({ cached: this.cache.flags(), measured: this.measured, problem, missing: this.missing })
    }, TELL_MS)
  }
}

export type { Screen }

let reader: BrowserRenderer | null = null

/** What draws frames at a size, px, to be read back or encoded. */
function readerAt(width: number, height: number): BrowserRenderer {
  if (reader?.width !== width || reader.height !== height)
    reader = new BrowserRenderer(width, height, { forReading: true })
  return reader
}

/** The pixels of a frame of the ring, whole or fractional, at a size in px. */
async function picture(loop: Loop, frame: number, width: number, height: number): Promise<Picture> {
  const pictures = await allPicturesAt(loop, frame)
  return readerAt(width, height).picture(loop, frame, pictures)
}

/** Where one file takes its frames from. */
export interface FrameLane {
  /** A frame of the loop; `at` is how far the file is with it, null out of turn. */
  readonly take: (frame: number, at: number | null) => Promise<Picture>
  /** Whether its frames are drawn for this file only. */
  readonly alone: boolean
  /** The same frame for an encoder of video. */
  readonly videoFrame: (frame: number) => Promise<VideoFrame>
  /** A frame of another loop at the same size, such as a pass of this one. Its media are those of the loop. */
  readonly other: (loop: Loop, frame: number) => Promise<Picture>
  readonly leave: () => void
}

/** What lets go of each lane. */
let leaveLane: (() => void)[] = []

const service = {
  /**
   * Draws the frames of a loop at a size for several files at a time, each through a port of its own. Frames are kept up to so
   * many bytes, to be looked at by all of them; those for a single file go to it as they are.
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
          const drawn = readerAt(width, height).videoFrame(loop, frame, await allPicturesAt(loop, frame))
          return transfer(drawn, [drawn])
        },
        other: (other, frame) => own({ ...other, pictures: loop.pictures, clips: loop.clips }, frame),
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
   */
  screen(canvas: OffscreenCanvas, ceiling: number, tellPage: (status: FramesStatus) => void): Screen & ProxyMarked {
    return proxy(new Screen(canvas, ceiling, tellPage))
  },

  /** The pixels of a frame of the ring, whole or fractional, at a size in px; they are transferred. */
  async picture(loop: Loop, frame: number, width: number, height: number): Promise<Picture> {
    const drawn = await picture(loop, frame, width, height)
    return transfer(drawn, [drawn.data.buffer])
  },

  /** The picture at an unreduced frame, `length` being the closing frame, at a size in px; the bitmap is transferred. */
  async bitmap(loop: Loop, frame: number, width: number, height: number): Promise<ImageBitmap> {
    const pictures = await picturesAt(loop, frame, evaluateUnreduced)
    const bitmap = new BrowserRenderer(width, height).bitmap(loop, frame, pictures, evaluateUnreduced)
    return transfer(bitmap, [bitmap])
  },

  /** What differs between two unreduced frames, times a gain, at a size in px; the bitmap is transferred. */
  async difference(
    loop: Loop,
    a: number,
    b: number,
    how: { readonly gain: number; readonly kind: DifferenceKind },
    width: number,
    height: number,
  ): Promise<ImageBitmap> {
    const renderer = new BrowserRenderer(width, height, { forReading: true })
    const look = async (n: number) =>
      renderer.picture(loop, n, await picturesAt(loop, n, evaluateUnreduced), evaluateUnreduced)
    const { data } = difference(await look(a), await look(b), how.gain, how.kind)
    const bitmap = await createImageBitmap(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height))
    return transfer(bitmap, [bitmap])
  },
}

export type RenderService = typeof service
serve(service)
