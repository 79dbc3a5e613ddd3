import { describe, expect, it } from 'vitest'
import { readAtMost, TooLarge, turnsOf } from './limits'

/** A stream without an end, and how much of it was asked for. */
function endless() {
  const asked = { parts: 0, cancelled: false }
  const stream = new ReadableStream<Uint8Array>({
    pull: (controller) => {
      asked.parts++
      controller.enqueue(new Uint8Array(1000))
    },
    cancel: () => {
      asked.cancelled = true
    },
  })
  return { asked, stream }
}

describe('what the server takes', () => {
  it('stops reading a body that is longer than is taken', async () => {
    const { asked, stream } = endless()
    await expect(readAtMost(stream, 10_000)).rejects.toThrow(TooLarge)
    expect(asked.cancelled).toBe(true)
    expect(asked.parts).toBeLessThan(15)
  })
  it('reads a body whole that is not', async () => {
    const body = new Response(new Uint8Array([1, 2, 3])).body
    expect([...(await readAtMost(body, 3))]).toEqual([1, 2, 3])
    expect((await readAtMost(null, 3)).length).toBe(0)
  })
  it('bounds what runs and what waits', async () => {
    const turns = turnsOf(2, 1)
    const [first] = [await turns.take(), await turns.take()]
    const third = turns.take()
    expect(await turns.take()).toBeNull()
    first?.()
    expect(await third).not.toBeNull()
  })
})
