import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Layer, Loop } from '@/core/document'
import { newLayer } from '@/core/edit'
import { filesOf, madeAsset } from '@/core/media'
import { noFile, pierOf, wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'

/** A bitmap that knows whether it was closed. */
interface Fake {
  closed: boolean
  close: () => void
}
const made: Fake[] = []
const FULL = { width: 1920, height: 1080 }

beforeEach(async () => {
  vi.resetModules()
  const { keepAtHand } = await import('@/core/media')
  keepAtHand(await filesOf([clip.frames, ...files]))
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

const clip = wakeOf(new Array(48).fill(40), {
  ...FULL,
  frames: await madeAsset(
    'image/png',
    Array.from({ length: 48 }, (_, n) => new TextEncoder().encode(`frame ${n}`)),
  ),
})
const layers: Layer[] = Array.from({ length: 16 }, (_, i) =>
  newLayer('clip', `Copy ${i}`, { clip: 'wake', time: (3 * i) / 48 }),
)
const loop: Loop = { ...quay, length: 48, media: [clip], layers }
const shows = (i: number) => newLayer('picture', 'Pier', { picture: `still-${i}` })
const timers = () => new Promise((resolve) => setTimeout(resolve, 5))

const later: Loop = {
  ...loop,
  layers: layers.map((layer) => ({ ...layer, values: { ...layer.values, time: Number(layer.values.time) + 1 / 48 } })),
}
const files = await Promise.all(
  Array.from({ length: 30 }, (_, i) => madeAsset('image/png', new TextEncoder().encode(`still ${i}`))),
)
const still = (i: number) => pierOf({ id: `still-${i}`, ...FULL, file: files[i] })
const open = () => made.filter(({ closed }) => !closed)
const fakes = (pictures: ReadonlyMap<string, unknown>) => [...pictures.values()] as Fake[]

describe('what a frame needs', () => {
  it('stays until it is released, however much that is, and makes room then', async () => {
    const { prepare } = await import('./prepare')
    const { pictures, release } = await prepare(loop, 0)
    expect(fakes(pictures)).toHaveLength(16)
    await timers()
    expect(open()).toHaveLength(16)
    release()
    release()
    await timers()
    // 96 MiB hold twelve frames of 1080p.
    expect(open()).toHaveLength(12)
  })
  it('stays while other frames are prepared and released', async () => {
    const { prepare, painted } = await import('./prepare')
    const first = await prepare(loop, 0)
    const second = await prepare(later, 0)
    second.release()
    for (let i = 0; i < 30; i++) await painted({ ...quay, media: [still(i)], layers: [shows(i)] }, 0, () => null)
    await timers()
    expect(fakes(first.pictures).filter(({ closed }) => closed)).toEqual([])
    first.release()
    await timers()
    expect(open()).toHaveLength(12)
  })
  it('is let go where painting fails', async () => {
    const { painted } = await import('./prepare')
    const fail = () => {
      throw new Error('no memory left')
    }
    for (const each of [loop, later]) await expect(painted(each, 0, fail)).rejects.toThrow('no memory left')
    await timers()
    expect(open()).toHaveLength(12)
  })
  it('is only what the frame shows', async () => {
    const { prepare } = await import('./prepare')
    const two = { ...quay, media: [still(1), still(2)], layers: [shows(2)] }
    expect([...(await prepare(two, 0)).pictures.keys()]).toEqual(['still-2/0'])
  })
  it('is decoded once, whatever its media are called, and looked for again where it was missing', async () => {
    const { prepare } = await import('./prepare')
    const named = (id: string): Loop => ({
      ...quay,
      media: [{ ...still(1), id }],
      layers: [newLayer('picture', 'Pier', { picture: id })],
    })
    await prepare(named('one'), 0)
    await prepare(named('other'), 0)
    expect(made).toHaveLength(1)
    const late = { ...quay, media: [pierOf({ id: 'still-9', file: { ...noFile(9), bytes: 4 } })], layers: [shows(9)] }
    expect((await prepare(late, 0)).missing).toEqual(['still-9'])
    const { keepAtHand } = await import('@/core/media')
    keepAtHand(new Map([[noFile(9).id, new Blob(['spar'])]]))
    expect((await prepare(late, 0)).missing).toEqual([])
  })
  it('is named where it is missing, and nothing is written with a hole', async () => {
    const { paintedWhole, prepare, MissingPicture } = await import('./prepare')
    const torn = { ...quay, media: [pierOf({ id: 'still-1', file: noFile(7) })], layers: [shows(1)] }
    expect((await prepare(torn, 0)).missing).toEqual(['still-1'])
    await expect(paintedWhole(torn, 0, () => null)).rejects.toThrow(MissingPicture)
    await expect(paintedWhole(torn, 0, () => null)).rejects.toThrow('“Pier” is missing or cannot be decoded')
  })
})
