/**
 * Size at which frames are drawn so that, where possible, all of them fit under a ceiling in bytes, and how many do.
 * Where they would not, they are drawn smaller, down to half the width that is shown, in device pixels.
 */
export function cachedSize(
  loop: { readonly width: number; readonly height: number; readonly length: number },
  shownWidth: number,
  ceiling: number,
) {
  const wanted = Math.min(1, shownWidth / loop.width)
  const bytes = loop.width * loop.height * 4 * loop.length * wanted * wanted
  const scale = wanted * Math.max(0.5, Math.min(1, Math.sqrt(ceiling / bytes)))
  const width = Math.max(1, Math.round(loop.width * scale))
  const height = Math.max(1, Math.round(loop.height * scale))
  return { width, height, capacity: Math.max(2, Math.floor(ceiling / (width * height * 4))) }
}

/**
 * Cache of the drawn frames of a loop, up to a number of frames. Pictures that are no longer needed are closed
 * gradually.
 */
export class FrameCache<T extends { close(): void }> {
  private readonly kept = new Map<number, T>()
  private retired: T[] = []
  private length = 1
  private capacity = 2

  /** Forgets all frames. The next ones belong to a loop of `length` frames, of which `capacity` fit. */
  reset(length: number, capacity: number): void {
    this.retired.push(...this.kept.values())
    this.kept.clear()
    this.length = length
    this.capacity = capacity
  }

  get(frame: number): T | undefined {
    return this.kept.get(frame)
  }

  /** Keeps a frame. Where there is no room for it, the one that will be played last from the playhead on goes. */
  put(frame: number, picture: T, playhead: number): void {
    this.kept.get(frame)?.close()
    this.kept.delete(frame)
    if (this.kept.size >= this.capacity) {
      const ahead = (n: number) => (n - playhead + this.length) % this.length
      const farthest = [...this.kept.keys()].reduce((a, b) => (ahead(b) > ahead(a) ? b : a))
      this.kept.get(farthest)?.close()
      this.kept.delete(farthest)
    }
    this.kept.set(frame, picture)
  }

  /** The first frame from the playhead on that is not kept and for which there is room; null when there is none. */
  nextMissing(playhead: number): number | null {
    for (let i = 0; i < Math.min(this.length, this.capacity); i++) {
      const frame = (playhead + i) % this.length
      if (!this.kept.has(frame)) return frame
    }
    return null
  }

  /** Whether each of the N frames is kept: 1 or 0. */
  flags(): Uint8Array {
    return Uint8Array.from({ length: this.length }, (_, n) => (this.kept.has(n) ? 1 : 0))
  }

  /** Closes some of the pictures that are of no use any more; returns whether there are others. Closing takes time. */
  closeSome(count: number): boolean {
    for (const picture of this.retired.splice(0, count)) picture.close()
    return this.retired.length > 0
  }
}
