import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Clip, Layer, Loop } from '@/core/document'
import { newLayer } from '@/core/edit'
import { quay } from '@/core/testing/quay'

/** A bitmap that knows whether it was closed. */
interface Fake {
  closed: boolean
  close: () => void
}
const made: Fake[] = []
const FULL = { width: 1920, height: 1080 }

beforeEach(() => {
  vi.resetModules()
  made.length = 0
  vi.stubGlobal('createImageBitmap', async () => {
    const bitmap: Fake = {
      closed: false,
      close: () => {
        bitmap.closed = true
      },
    }
    made.push(bitmap)
    return bitmap
  })
})
afterEach(() => vi.unstubAllGlobals())

const clip: Clip = {
  ...{ id: 'wake', name: 'Ferry wake', type: 'image/png', ...FULL, verdict: 'closes' },
  delaysMs: new Array(48).fill(40),
  frames: Array.from({ length: 48 }, (_, n) => btoa(`frame ${n}`)),
}
const layers: Layer[] = Array.from({ length: 16 }, (_, i) =>
  newLayer('clip', `Copy ${i}`, { clip: 'wake', time: (3 * i) / 48 }),
)
const loop: Loop = { ...quay, length: 48, clips: [clip], layers }
const timers = () => new Promise((resolve) => setTimeout(resolve, 5))

describe('pictures that are gathered for a frame', () => {
  it('are all open when they are drawn, however many there are, and let go afterwards', async () => {
    const { picturesAt } = await import('./pictures')
    const gathered = [...(await picturesAt(loop, 0)).values()] as unknown as Fake[]
    expect(gathered).toHaveLength(16)
    expect(gathered.filter(({ closed }) => closed)).toEqual([])
    await timers()
    // 96 MiB hold twelve frames of 1080p.
    expect(made.filter(({ closed }) => !closed)).toHaveLength(12)
  })
  it('stay open while others are gathered at the same time', async () => {
    const { picturesAt } = await import('./pictures')
    const later = {
      ...loop,
      layers: layers.map((layer) => ({
        ...layer,
        values: { ...layer.values, time: Number(layer.values.time) + 1 / 48 },
      })),
    }
    const both = await Promise.all([picturesAt(loop, 0), picturesAt(later, 0)])
    const all = both.flatMap((pictures) => [...pictures.values()]) as unknown as Fake[]
    expect(all).toHaveLength(32)
    expect(all.filter(({ closed }) => closed)).toEqual([])
  })
  it('lets go of stills, too', async () => {
    const { picturesAt } = await import('./pictures')
    const still = (i: number) => ({
      id: `still-${i}`,
      name: 'Pier',
      type: 'image/png' as const,
      ...FULL,
      data: btoa(`${i}`),
    })
    for (let i = 0; i < 30; i++) await picturesAt({ ...quay, pictures: [still(i)] }, 0)
    await timers()
    expect(made.filter(({ closed }) => !closed).length).toBeLessThan(13)
  })
})
