/** A body is longer than is taken. */
export class TooLarge extends Error {
  override readonly name = 'TooLarge'
}
/** A body does not come, or only in drops. */
export class TooSlow extends Error {
  override readonly name = 'TooSlow'
}
/** All bodies that are being read have more bytes together than there is room for. */
export class NoRoom extends Error {
  override readonly name = 'NoRoom'
}

/** Room for the bytes of bodies that are read and not yet done with. */
export class BodyRoom {
  private used = 0
  constructor(readonly most: number) {}
  /** @throws NoRoom */
  take(bytes: number): void {
    if (this.used + bytes > this.most) throw new NoRoom(`More than ${this.most} bytes are being read.`)
    this.used += bytes
  }
  giveBack(bytes: number): void {
    this.used -= bytes
  }
}

/** How a body is read. */
export interface BodyLimits {
  /** Bytes at the most. */
  readonly most: number
  /** Longest pause between two parts. */
  readonly silenceMs: number
  /** Longest time for the whole body. */
  readonly wholeMs: number
  readonly room: BodyRoom
}

/** The next part of a stream. @throws TooSlow where it does not come in time */
async function nextPart(reader: ReadableStreamDefaultReader<Uint8Array>, withinMs: number) {
  let timer: ReturnType<typeof setTimeout> | undefined
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new TooSlow('The body does not come.')), withinMs)
  })
  return Promise.race([reader.read(), late]).finally(() => clearTimeout(timer))
}

/**
 * Reads a stream whole and does something with its bytes; the room that they take is given back after that.
 * @throws TooLarge, TooSlow, NoRoom; then the stream is given up
 */
export async function withBytes<T>(
  body: ReadableStream<Uint8Array> | null,
  { most, silenceMs, wholeMs, room }: BodyLimits,
  work: (bytes: Uint8Array<ArrayBuffer>) => Promise<T>,
): Promise<T> {
  const parts: Uint8Array[] = []
  let length = 0
  const reader = body?.getReader()
  const until = Date.now() + wholeMs
  try {
    while (reader) {
      const { done, value } = await nextPart(reader, Math.min(silenceMs, Math.max(0, until - Date.now())))
      if (done) break
      if (length + value.length > most) throw new TooLarge(`The body is longer than ${most} bytes.`)
      room.take(value.length)
      length += value.length
      parts.push(value)
    }
    const bytes = new Uint8Array(length)
    let at = 0
    for (const part of parts) {
      bytes.set(part, at)
      at += part.length
    }
    return await work(bytes)
  } catch (error) {
    // Whoever sends it is not waited for.
    void reader?.cancel().catch(() => {})
    throw error
  } finally {
    room.giveBack(length)
  }
}

/**
 * Work of which at most `atOnce` turns run at a time and at most `waitingMost` wait. Each turn must be given back by
 * calling it.
 */
export function turnsOf(atOnce: number, waitingMost: number) {
  let running = 0
  const waiting: (() => void)[] = []
  // A turn that is given back goes straight to whoever waits, so that nobody comes between.
  const giveBack = () => {
    const next = waiting.shift()
    if (next) next()
    else running--
  }
  return {
    /** Waits for a turn; null where too many wait already. */
    async take(): Promise<(() => void) | null> {
      if (running >= atOnce) {
        if (waiting.length >= waitingMost) return null
        await new Promise<void>((resolve) => waiting.push(resolve))
      } else running++
      return giveBack
    },
  }
}
