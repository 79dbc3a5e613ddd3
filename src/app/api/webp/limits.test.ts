import { afterEach, describe, expect, it, vi } from 'vitest'
import { pngInNode } from '@/render/png-node'
import { BodyRoom, NoRoom, TooLarge, TooSlow, turnsOf, withBytes } from './limits'
import { POST } from './route'

const png = await pngInNode({ width: 4, height: 4, data: new Uint8ClampedArray(64).fill(200) })

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

/** A stream that begins and never goes on. */
function silent(first = new Uint8Array(0)) {
  const asked = { cancelled: false }
  const stream = new ReadableStream<Uint8Array>({
    start: (controller) => controller.enqueue(first),
    cancel: () => {
      asked.cancelled = true
    },
  })
  return { asked, stream }
}
const reading = (most: number, room = new BodyRoom(1e6)) => ({ most, silenceMs: 50, wholeMs: 200, room })
const bytesOf = async (bytes: Uint8Array) => [...bytes]

describe('what the server takes', () => {
  it('stops reading a body that is longer than is taken', async () => {
    const { asked, stream } = endless()
    await expect(withBytes(stream, reading(10_000), bytesOf)).rejects.toThrow(TooLarge)
    expect(asked.cancelled).toBe(true)
    expect(asked.parts).toBeLessThan(15)
  })
  it('reads a body whole that is not', async () => {
    const body = new Response(new Uint8Array([1, 2, 3])).body
    expect(await withBytes(body, reading(3), bytesOf)).toEqual([1, 2, 3])
    expect(await withBytes(null, reading(3), bytesOf)).toEqual([])
  })
  it('gives up a body that does not come, or only in drops', async () => {
    const { asked, stream } = silent()
    await expect(withBytes(stream, reading(100), bytesOf)).rejects.toThrow(TooSlow)
    expect(asked.cancelled).toBe(true)
    const drops = new ReadableStream<Uint8Array>({
      pull: async (controller) => {
        await new Promise((resolve) => setTimeout(resolve, 20))
        controller.enqueue(new Uint8Array(1))
      },
    })
    await expect(withBytes(drops, reading(1e6), bytesOf)).rejects.toThrow(TooSlow)
  })
  it('has room for so many bytes together, and gets it back whatever becomes of them', async () => {
    const room = new BodyRoom(10)
    const ten = () => new Response(new Uint8Array(10)).body
    await withBytes(ten(), reading(10, room), async () => {
      await expect(withBytes(ten(), reading(10, room), bytesOf)).rejects.toThrow(NoRoom)
    })
    await expect(withBytes(silent(new Uint8Array(10)).stream, reading(10, room), bytesOf)).rejects.toThrow(TooSlow)
    expect(await withBytes(ten(), reading(10, room), bytesOf)).toHaveLength(10)
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

describe('writing a WebP', () => {
  afterEach(() => vi.useRealTimers())
  const address = 'http://localhost/api/webp?lossless=true&exact=false&quality=80'
  const sent = (body: BodyInit | ReadableStream) =>
    POST(new Request(address, { method: 'POST', body, duplex: 'half' } as RequestInit))

  it('goes on for others while many say nothing, and these are told that they are late', async () => {
    vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout', 'Date'] })
    const late = Array.from({ length: 30 }, () => sent(silent(png.slice(0, 8)).stream))
    const written = await sent(new Blob([png]))
    expect([written.status, written.headers.get('content-type')]).toEqual([200, 'image/webp'])
    await vi.advanceTimersByTimeAsync(11_000)
    expect((await Promise.all(late)).map(({ status }) => status)).toEqual(late.map(() => 408))
  })
  it.each([
    ['no query', 'http://localhost/api/webp', png, 400],
    ['another quality', 'http://localhost/api/webp?lossless=true&exact=false&quality=900', png, 400],
    ['no picture', address, new TextEncoder().encode('words'), 400],
    ['nothing', address, new Uint8Array(0), 400],
    ['a picture that breaks off', address, png.slice(0, 30), 422],
  ])('is refused in words for %s', async (_, to, body, status) => {
    const response = await POST(new Request(to, { method: 'POST', body }))
    expect(response.status).toBe(status)
    expect((await response.json()).message).toMatch(/\.$|Input/)
  })
  it('is refused before a byte is read of what says that it is too large', async () => {
    const { asked, stream } = endless()
    const headers = { 'content-length': String(200 * 1024 * 1024) }
    const response = await POST(
      new Request(address, { method: 'POST', body: stream, headers, duplex: 'half' } as RequestInit),
    )
    expect([response.status, asked.parts <= 1]).toEqual([413, true])
  })
})
