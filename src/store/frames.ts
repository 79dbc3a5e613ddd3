import { transfer } from 'comlink'
import type { Loop } from '@/core/loop'
import { type Client, renderClient } from '@/workers/clients'
import type { RenderService } from '@/workers/render.worker'

/** Ceiling of the frames that are kept, bytes. Beyond it frames are drawn smaller, down to half size, then dropped. */
export const FRAME_CEILING = 384 * 1024 * 1024
/** A pause after which the frames around the playhead are drawn ahead, ms. */
const QUIET_MS = 350

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
 * The drawn frames of the loop that is shown, and the canvas on which they are shown. A worker draws them, keeps them
 * and puts them on the canvas, so that neither drawing nor playing takes the main thread's time.
 */
export class FrameStore {
  /** The canvas to put on the page. It is sent a `shown` event, with the time, whenever a frame has been put on it. */
  readonly canvas = document.createElement('canvas')
  private readonly client: Client<RenderService> = renderClient()
  private readonly kept = new Set<number>()
  private readonly listeners = new Set<Listener>()
  private loop: Loop | null = null
  private size = { width: 0, height: 0, capacity: 2 }
  private version = 0
  private wanted: number | null = null
  private presenting = false
  private filling = false
  private playhead = 0
  private timer: ReturnType<typeof setTimeout> | undefined

  constructor() {
    const screen = this.canvas.transferControlToOffscreen()
    void this.client.service.attach(transfer(screen, [screen]))
  }

  /** Shows a loop at a width in device pixels; frames of another loop or size are dropped. */
  show(loop: Loop, shownWidth: number, frame: number): void {
    const size = cachedSize(loop, shownWidth)
    if (loop === this.loop && size.width === this.size.width && size.height === this.size.height) return
    void this.client.service.setLoop(loop, size.width, size.height)
    this.loop = loop
    this.size = size
    this.version++
    this.kept.clear()
    this.present(frame)
    this.tell()
    clearTimeout(this.timer)
    this.timer = setTimeout(() => this.fill(), QUIET_MS)
  }

  has(frame: number): boolean {
    return this.kept.has(frame)
  }

  /** Whether each frame is kept: N flags. */
  cached(): boolean[] {
    return Array.from({ length: this.loop?.length ?? 0 }, (_, n) => this.kept.has(n))
  }

  /** Puts a frame on the canvas, drawing it first where it is not kept. Only the last one asked for counts. */
  present(frame: number): void {
    this.playhead = frame
    if (!this.loop) return
    this.wanted = frame
    void this.presentWanted()
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  end(): void {
    clearTimeout(this.timer)
    this.version++
    this.loop = null
    this.client.end()
  }

  private tell() {
    for (const listener of this.listeners) listener()
  }

  private async presentWanted() {
    if (this.presenting) return
    this.presenting = true
    while (this.wanted !== null) {
      const { wanted: frame, version } = this
      this.wanted = null
      const at = await this.client.service.present(frame)
      this.canvas.dispatchEvent(new CustomEvent('shown', { detail: at }))
      this.note(frame, version)
    }
    this.presenting = false
  }

  private async fill() {
    if (this.filling) return
    this.filling = true
    for (let next = this.nextMissing(); next !== null; next = this.nextMissing()) {
      const { version } = this
      await this.client.service.keep(next)
      this.note(next, version)
    }
    this.filling = false
  }

  /** A frame has been drawn; the one that will be played last is dropped where there is no room for both. */
  private note(frame: number, version: number) {
    if (version !== this.version || this.kept.has(frame)) return
    if (this.kept.size >= this.size.capacity) {
      const length = this.loop?.length ?? 1
      const ahead = (n: number) => (n - this.playhead + length) % length
      const farthest = [...this.kept].reduce((a, b) => (ahead(b) > ahead(a) ? b : a))
      this.kept.delete(farthest)
      void this.client.service.drop(farthest)
    }
    this.kept.add(frame)
    this.tell()
  }

  /** The first frame from the playhead on that is not drawn, as far as the ceiling reaches. */
  private nextMissing(): number | null {
    const length = this.loop?.length ?? 0
    for (let i = 0; i < Math.min(length, this.size.capacity - 1); i++) {
      const frame = (this.playhead + i) % length
      if (!this.kept.has(frame)) return frame
    }
    return null
  }
}
