import type { Picture } from '@/core/image'

/** Somebody who takes frames, and how far that has got: 0 … 1 of writing, 1 … 2 of reading back. */
interface Taker {
  at: number
}

/**
 * The frames of one loop at one size, from which several files are written at the same time: each is drawn once for all of
 * them. Where they do not all fit under a ceiling, takers wait for the slowest, so that what one has had is still there when
 * the others need it.
 */
export class SharedFrames {
  private readonly takers = new Set<Taker>()
  private readonly kept = new Map<number, Promise<Picture>>()
  private waiting: (() => void)[] = []
  /** Frames that have been drawn, those drawn again counted again. */
  drawn = 0

  /**
   * @param draw a frame of the loop, whole or fractional
   * @param fit how many frames may be kept
   * @param count how many the loop has
   */
  constructor(
    private readonly draw: (frame: number) => Promise<Picture>,
    private readonly fit: number,
    private readonly count: number,
  ) {}

  join(): Taker {
    const taker = { at: 0 }
    this.takers.add(taker)
    return taker
  }

  /** A taker that has left holds up nobody. */
  leave(taker: Taker): void {
    this.takers.delete(taker)
    this.wake()
  }

  /**
   * A frame of the loop.
   * @param at how far its taker is with it; null out of turn, which waits for nobody
   */
  async take(taker: Taker, frame: number, at: number | null): Promise<Picture> {
    if (at !== null) {
      taker.at = at
      this.wake()
      const ahead = this.fit >= this.count ? Infinity : Math.max(1, this.fit / 2) / this.count
      while (this.takers.has(taker) && at > Math.min(...[...this.takers].map((each) => each.at)) + ahead)
        await new Promise<void>((resolve) => this.waiting.push(resolve))
    }
    const known = this.kept.get(frame)
    if (known) return known
    const drawing = this.draw(frame)
    this.drawn++
    drawing.catch(() => this.kept.delete(frame))
    this.kept.set(frame, drawing)
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.fit) break
      this.kept.delete(oldest)
    }
    return drawing
  }

  private wake(): void {
    const { waiting } = this
    this.waiting = []
    for (const resolve of waiting) resolve()
  }
}

/** A picture that others can look at without a copy of their own, where the browser lets memory be shared. */
export function shareable(picture: Picture): Picture {
  if (!globalThis.crossOriginIsolated || picture.data.buffer instanceof SharedArrayBuffer) return picture
  const data = new Uint8ClampedArray(new SharedArrayBuffer(picture.data.length))
  data.set(picture.data)
  return { ...picture, data }
}
