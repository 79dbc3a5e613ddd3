/** A body is longer than is taken. */
export class TooLarge extends Error {
  override readonly name = 'TooLarge'
}

/** The bytes of a stream, which is given up as soon as it is longer than is taken. @throws TooLarge */
export async function readAtMost(
  body: ReadableStream<Uint8Array> | null,
  most: number,
): Promise<Uint8Array<ArrayBuffer>> {
  const parts: Uint8Array[] = []
  let length = 0
  const reader = body?.getReader()
  for (;;) {
    const { done, value } = (await reader?.read()) ?? { done: true, value: undefined }
    if (done || !value) break
    length += value.length
    if (length > most) {
      await reader?.cancel()
      throw new TooLarge(`The body is longer than ${most} bytes.`)
    }
    parts.push(value)
  }
  const bytes = new Uint8Array(length)
  let at = 0
  for (const part of parts) {
    bytes.set(part, at)
    at += part.length
  }
  return bytes
}

/** Work of which so much runs at a time, and so much may wait. Each turn that is taken must be given back by calling it. */
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
