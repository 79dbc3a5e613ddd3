import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { WorkerEnded } from '@/workers/page/clients'
import { tryVideo } from './trial'

const never = () => new Promise<never>(() => {})
/** The worker in which a file is tried, and how often one was begun and ended. */
const worker = vi.hoisted(() => ({ look: vi.fn(), here: vi.fn(), begun: 0, ended: 0 }))
vi.mock('@/workers/page/clients', () => ({
  WorkerEnded: class extends Error {},
  clipClient: () => {
    worker.begun++
    return { ask: (work: (service: object) => unknown) => work(worker), end: () => worker.ended++ }
  },
}))

const MP4 = new File([Uint8Array.from([0, 0, 0, 24]), 'ftypisom'], 'wake.mp4')
const WEBM = new File([Uint8Array.from([0x1a, 0x45, 0xdf, 0xa3])], 'wake.webm')

let here = new AbortController()
beforeEach(() => {
  here = new AbortController()
  vi.useFakeTimers()
  worker.look.mockReset().mockResolvedValue(undefined)
  worker.here.mockReset().mockResolvedValue(true)
  worker.begun = 0
  worker.ended = 0
})
afterEach(() => void vi.useRealTimers())

describe('a video that is tried', () => {
  it.each([MP4, WEBM])('is opened in a worker of its own, which is ended: $name', async (file) => {
    await tryVideo(file, here.signal)
    expect(worker.look).toHaveBeenCalledWith(file)
    expect([worker.begun, worker.ended]).toEqual([1, 1])
  })
  it('whose reader refuses it is left to who reads it then', async () => {
    worker.look.mockRejectedValue(new Error('It holds no pictures.'))
    await tryVideo(MP4, here.signal)
    expect(worker.ended).toBe(1)
  })
  it.each(['lamp.gif', 'lamp.avif'])('is none where it is read otherwise: %s', async (name) => {
    const head = name.endsWith('avif') ? '\0\0\0 ftypavis' : 'GIF89a'
    await tryVideo(new File([head], name), here.signal)
    expect(worker.begun).toBe(0)
  })
  it('is refused where its worker falls silent, and the worker is ended', async () => {
    worker.look.mockImplementation(never)
    worker.here.mockImplementation(never)
    const refused = expect(tryVideo(MP4, here.signal)).rejects.toThrow('wake.mp4 is damaged: reading its structure')
    await vi.advanceTimersByTimeAsync(60_000)
    await refused
    expect(worker.ended).toBe(1)
  })
  it('is refused where its worker dies: the one of the open clip does not meet it', async () => {
    worker.look.mockRejectedValue(new WorkerEnded('no memory'))
    worker.here.mockRejectedValue(new WorkerEnded('no memory'))
    await expect(tryVideo(MP4, here.signal)).rejects.toThrow('wake.mp4 needs more memory than the browser has')
    expect(worker.ended).toBe(1)
  })
  it('is waited for as long as its worker answers, and may be given up', async () => {
    worker.look.mockImplementation(never)
    let outcome = 'open'
    const trying = tryVideo(MP4, here.signal).catch((error: Error) => {
      outcome = error.message
    })
    await vi.advanceTimersByTimeAsync(3_600_000)
    expect(outcome).toBe('open')
    expect(worker.here.mock.calls.length).toBeGreaterThan(100)
    here.abort()
    await trying
    expect([outcome, worker.ended]).toEqual(['It was cancelled.', 1])
  })
})
