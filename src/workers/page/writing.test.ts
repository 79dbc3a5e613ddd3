import { describe, expect, it, vi } from 'vitest'
import { PLAIN_SETTINGS } from '@/core/output'
import { quay } from '@/core/testing/quay'
import { SharedFrames } from '../inside/shared-frames'

const left: number[] = []
let fails = (_why: Error) => {}
vi.mock('./clients', () => {
  const never = new Promise<never>(() => {})
  let made = 0
  return {
    renderClient: () => ({
      service: { lanes: async () => {}, leave: async (place: number) => void left.push(place) },
      broken: never,
      end: () => {},
    }),
    exportClient: () => {
      const first = made++ === 0
      return {
        service: {
          file: () =>
            first ? new Promise((_, reject) => (fails = reject)) : new Promise((resolve) => setTimeout(resolve, 20)),
        },
        broken: never,
        end: () => {},
      }
    },
  }
})
vi.mock('./read-vector', () => ({ vectorViewer: () => ({ close: async () => {} }) }))
vi.mock('comlink', async (original) => ({
  ...(await original<object>()),
  transfer: (x: unknown) => x,
  proxy: (x: unknown) => x,
}))

describe('files that are written together', () => {
  it('are waited for by none of the others once one of them has failed', async () => {
    const { writeTogether } = await import('./writing')
    const job = { loop: quay, settings: PLAIN_SETTINGS, name: 'quay' }
    const { files } = writeTogether([job, job], () => {})
    await new Promise((resolve) => setTimeout(resolve, 5))
    fails(new Error('An odd size cannot be written.'))
    await expect(files[0]).rejects.toThrow('odd size')
    expect(left).toContain(0)
    await files[1]
  })
  it('go on where one that held them up has left, with frames that do not all fit', async () => {
    const picture = { width: 1, height: 1, data: new Uint8ClampedArray(4) }
    const frames = new SharedFrames(async () => picture, 2, 40)
    const stuck = frames.join()
    const going = frames.join()
    await frames.take(stuck, 0, 0)
    const all = (async () => {
      for (let n = 0; n < 40; n++) await frames.take(going, n, n / 40)
    })()
    const first = await Promise.race([
      all.then(() => 'done'),
      new Promise((resolve) => setTimeout(() => resolve('waits'), 20)),
    ])
    expect(first).toBe('waits')
    frames.leave(stuck)
    await all
  })
})
