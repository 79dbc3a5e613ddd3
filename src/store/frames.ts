import type { Loop } from '@/core/loop'
import { type Client, renderClient } from '@/workers/clients'
import type { RenderService } from '@/workers/render.worker'

/** Ceiling of the frames that are kept, bytes. Beyond it frames are drawn smaller, down to half size, then dropped. */
export const FRAME_CEILING = 384 * 1024 * 1024
/** A pause after which the frames around the playhead are drawn ahead, ms. */
const QUIET_MS = 120

/** Size at which frames are drawn so that, where possible, all of them fit under the ceiling. */
export function cachedSize(loop: Pick<Loop, 'width' | 'height' | 'length'>, shownWidth: number) {
  const wanted = Math.min(1, shownWidth / loop.width)
  const bytes = loop.width * loop.height * 4 * loop.length * wanted * wanted
  const scale = wanted * Math.max(0.5, Math.min(1, Math.sqrt(FRAME_CEILING / bytes)))
  const width = Math.max(1, Math.round(loop.width * scale))
  const height = Math.max(1, Math.round(loop.height * scale))
  return { width, height, capacity: Math.max(2, Math.floor(FRAME_CEILING / (width * height * 4))) }
}

type Listener = () => void

/**
 * The drawn frames of the loop that is shown. One worker draws the frame that is looked at, another one fills the
 * cache in the order in which frames will be played.
 */
export class FrameStore {
  private readonly live: Client<RenderService> = renderClient()
  private readonly ahead: Client<RenderService> = renderClient()
  private readonly bitmaps = new Map<number, ImageBitmap>()
  private readonly listeners = new Set<Listener>()
  private loop: Loop | null = null
  private size = { width: 1, height: 1, capacity: 2 }
  private version = 0
  private wanted: number | null = null
  private drawing = false
  private filling = false
  private playhead = 0
  private timer: ReturnType<typeof setTimeout> | undefined

  /** Shows a loop at a width in device pixels; frames of another loop or size are dropped. */
  show(loop: Loop, shownWidth: number, frame: number): void {
    const size = cachedSize(loop, shownWidth)
    if (loop === this.loop && size.width === this.size.width && size.height === this.size.height) return
    if (loop !== this.loop) void this.live.service.setLoop(loop)
    this.loop = loop
    this.size = size
    this.version++
    this.clear()
    this.want(frame)
    clearTimeout(this.timer)
    this.timer = setTimeout(() => this.fill(), QUIET_MS)
  }

  /** The frame's picture, if it has been drawn. It belongs to the store: draw it, do not close it. */
  get(frame: number): ImageBitmap | undefined {
    return this.bitmaps.get(frame)
  }
  get count(): number {
    return this.bitmaps.size
  }
  get pixelSize() {
    return { width: this.size.width, height: this.size.height }
  }

  /** Whether each frame is cached: N flags. */
  cached(): boolean[] {
    return Array.from({ length: this.loop?.length ?? 0 }, (_, n) => this.bitmaps.has(n))
  }

  /** Asks for a frame to be drawn next, and for those after it to be drawn ahead. */
  want(frame: number): void {
    this.playhead = frame
    if (!this.loop || this.bitmaps.has(frame)) return
    this.wanted = frame
    void this.drawWanted()
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  end(): void {
    clearTimeout(this.timer)
    this.version++
    this.loop = null
    this.clear()
    this.live.end()
    this.ahead.end()
  }

  private async drawWanted() {
    if (this.drawing) return
    this.drawing = true
    while (this.wanted !== null) {
      const frame = this.wanted
      this.wanted = null
      await this.draw(this.live, frame)
    }
    this.drawing = false
  }

  private async fill() {
    if (this.filling || !this.loop) return
    this.filling = true
    let version = -1
    for (;;) {
      if (version !== this.version) {
        version = this.version
        if (!this.loop) break
        void this.ahead.service.setLoop(this.loop)
      }
      const next = this.nextMissing()
      if (next === null) break
      await this.draw(this.ahead, next)
    }
    this.filling = false
  }

  /** The first frame from the playhead on that is not drawn, as far as the ceiling reaches. */
  private nextMissing(): number | null {
    const length = this.loop?.length ?? 0
    for (let i = 0; i < Math.min(length, this.size.capacity - 1); i++) {
      const frame = (this.playhead + i) % length
      if (!this.bitmaps.has(frame)) return frame
    }
    return null
  }

  private async draw({ service }: Client<RenderService>, frame: number) {
    const { version } = this
    const bitmap = await service.frame(frame, this.size.width, this.size.height)
    if (version !== this.version || this.bitmaps.has(frame)) {
      bitmap.close()
      return
    }
    if (this.bitmaps.size >= this.size.capacity) this.dropFarthest()
    this.bitmaps.set(frame, bitmap)
    for (const listener of this.listeners) listener()
  }

  /** Drops the frame that will be played last from the playhead on. */
  private dropFarthest() {
    const length = this.loop?.length ?? 1
    const ahead = (frame: number) => (frame - this.playhead + length) % length
    const farthest = [...this.bitmaps.keys()].reduce((a, b) => (ahead(b) > ahead(a) ? b : a))
    this.bitmaps.get(farthest)?.close()
    this.bitmaps.delete(farthest)
  }

  private clear() {
    for (const bitmap of this.bitmaps.values()) bitmap.close()
    this.bitmaps.clear()
    for (const listener of this.listeners) listener()
  }
}
