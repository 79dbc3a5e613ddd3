import { frameMs, framesDue, PaceMeter, type Playback } from '@/core/clock'
import { type Loop, withFaces } from '@/core/document'
import { BrowserRenderer, scaledSize } from '@/render/browser'
import { cachedSize, FrameCache } from '@/render/frame-cache'
import type { Pictures } from '@/render/painters/painter'
import { painted, prepare } from '@/render/prepare'
import { breathe, sharedNow } from '../shared/timing'
import { coarseScale, ownCost } from './coarse'

/** State of the frames, for the page. */
export interface FramesStatus {
  /** For each frame of the loop, 1 where it is drawn and kept. */
  readonly cached: Uint8Array
  /** Frames per second over the last second, and the frames that were due but never shown; null while it stands still. */
  readonly measured: { readonly rate: number; readonly missed: number } | null
  /** The latest problem since the last message; null if there was none. */
  readonly problem: string | null
  /** Ids of the stills and clips that the shown frame has holes for. */
  readonly missing: readonly string[]
}

/** A pause after which the frames around the playhead are drawn ahead, ms. */
const QUIET_MS = 350
/** Least time between two messages to the page, ms. */
const TELL_MS = 200
/** Interval at which the pace is measured, ms. */
const MEASURE_MS = 500
/** Pictures that are closed between two others that are drawn. */
const CLOSE_AT_ONCE = 4

/**
 * Draws the frames of one loop, keeps them and shows them on a canvas of the page. Playing runs here by this thread's
 * own clock, so that it keeps its pace whatever the page is doing, and takes none of its time.
 */
export class Screen {
  private readonly cache = new FrameCache<ImageBitmap>()
  private readonly context: OffscreenCanvasRenderingContext2D
  private shown: BrowserRenderer | null = null
  private kept: BrowserRenderer | null = null
  /** Draws smaller while the loop is being changed, where a frame at its own size takes long. */
  private coarse: BrowserRenderer | null = null
  /** How long the last frame took at its own size, ms. */
  private cost = 0
  /** Whether what is shown was drawn smaller than it is. */
  private isCoarse = false
  private loop: Loop | null = null
  /** Lets go of what the next frame to be shown needs. */
  private release: () => void = () => {}
  private playhead = 0
  private version = 0
  private filling = false
  /** The version of which a frame could not be drawn ahead. */
  private unfillable = -1
  private quiet: ReturnType<typeof setTimeout> | undefined
  private telling: ReturnType<typeof setTimeout> | undefined
  private request = 0
  private playing = false
  private measured: FramesStatus['measured'] = null
  private problem: string | null = null
  private missing: readonly string[] = []

  constructor(
    canvas: OffscreenCanvas,
    private readonly ceiling: number,
    private readonly tellPage: (status: FramesStatus) => void,
    /** Whether frames are drawn ahead while it stands still, too. */
    private readonly ahead: boolean,
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
    const ready = await prepare(await withFaces(loop), frame)
    const { canvas } = this.context
    const { width, height, capacity } = cachedSize(loop, shownWidth, this.ceiling)
    this.loop = loop
    // Held until the frame has been drawn, so that nothing of it is read twice.
    this.release()
    this.release = ready.release
    this.version++
    clearTimeout(this.quiet)
    this.quiet = setTimeout(() => {
      this.quiet = undefined
      this.rest().catch((error) => this.fail(error))
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
      await painted(loop, frame, (pictures, missing) => {
        this.missing = missing
        if (version !== this.version || frame !== this.playhead) return
        const scale = this.quiet || this.playing ? coarseScale(this.cost) : 1
        const began = sharedNow()
        if (scale < 1) this.drawCoarse(loop, frame, pictures, scale)
        else this.shown?.draw(loop, frame, pictures)
        this.cost = ownCost(sharedNow() - began, scale)
        this.isCoarse = scale < 1
      })
      this.release()
      return
    }
    this.context.resetTransform()
    this.context.globalCompositeOperation = 'copy'
    this.context.drawImage(bitmap, 0, 0)
    this.isCoarse = false
  }

  /** Draws a frame smaller and lays it over the whole canvas. */
  private drawCoarse(loop: Loop, frame: number, pictures: Pictures, scale: number): void {
    const { width, height } = scaledSize(this.context.canvas, scale)
    if (this.coarse?.width !== width || this.coarse.height !== height) this.coarse = new BrowserRenderer(width, height)
    const bitmap = this.coarse.bitmap(loop, frame, pictures)
    this.context.resetTransform()
    this.context.globalCompositeOperation = 'copy'
    this.context.drawImage(bitmap, 0, 0, this.context.canvas.width, this.context.canvas.height)
    bitmap.close()
  }

  /** Nothing has changed for a while: what was drawn coarse is drawn at its own size, and the frames after it ahead. */
  private async rest(): Promise<void> {
    if (this.isCoarse && !this.playing) await this.show(this.playhead)
    await this.fill()
  }

  /** Plays until stop() is called; another loop in between is played on. */
  play(playback: Playback): void {
    cancelAnimationFrame(this.request)
    this.playing = true
    if (!this.quiet) void this.fill()
    const meter = new PaceMeter(sharedNow())
    let last = -1
    let missed = 0
    let measuredAt = sharedNow()
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
    this.playing = false
    this.measured = null
    this.tell()
    if (!this.quiet) this.rest().catch((error) => this.fail(error))
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
    if (this.filling || !(this.ahead || this.playing)) return
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
    while (version === this.version && this.unfillable !== version && (this.ahead || this.playing)) {
      await breathe()
      const others = this.cache.closeSome(CLOSE_AT_ONCE)
      const frame = this.cache.nextMissing(this.playhead)
      if (frame === null && !others) break
      if (frame === null || !this.loop || !this.kept) continue
      const { loop, kept } = this
      const bitmap = await painted(loop, frame, (pictures) =>
        version === this.version ? kept.bitmap(loop, frame, pictures) : null,
      )
      if (!bitmap) break
      this.cache.put(frame, bitmap, this.playhead)
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
