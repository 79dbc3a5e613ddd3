import { describe, expect, it } from 'vitest'
import type { Clip } from '@/core/document'
import { quay } from '@/core/testing/quay'
import { clientOf, WorkerStopped } from './client'

/** A worker of which nothing is asked. */
const silent = () => {
  const { port1 } = new MessageChannel()
  return clientOf<object>(Object.assign(port1, { terminate: () => port1.close() }) as unknown as Worker)
}
const picture = { id: 'pier', name: 'Pier', type: 'image/png', width: 4, height: 4, data: 'AAAA' } as const
const clip: Clip = {
  id: 'wake',
  name: 'Ferry wake',
  type: 'image/png',
  width: 4,
  height: 4,
  verdict: 'closes',
  delaysMs: [40, 40],
  frames: ['AAAA', 'AAAB'],
}
const loop = { ...quay, pictures: [picture], clips: [clip] }

describe('a loop on its way to a worker', () => {
  it('carries its media once, and goes without them from then on', () => {
    const { light } = silent()
    expect(light(loop)).toEqual(loop)
    expect(light({ ...loop, name: 'Quay at noon' })).toMatchObject({
      name: 'Quay at noon',
      pictures: [{ id: 'pier', data: '' }],
      clips: [{ id: 'wake', frames: [] }],
    })
    const other = { ...clip, id: 'glass' }
    expect(light({ ...loop, clips: [clip, other] }).clips).toEqual([{ ...clip, frames: [] }, other])
  })
  it('carries media later that it came without at first', () => {
    const { light } = silent()
    light({ ...loop, pictures: [{ ...picture, data: '' }], clips: [{ ...clip, frames: ['', ''] }] })
    expect(light(loop)).toEqual(loop)
  })
  it('is the same object where it has none', () => expect(silent().light(quay)).toBe(quay))
})

describe('a worker that is ended', () => {
  it('leaves nothing waiting: what was asked is told that it was stopped', async () => {
    const client = silent()
    const asked = client.ask(() => new Promise<never>(() => {}))
    client.end()
    await expect(asked).rejects.toBeInstanceOf(WorkerStopped)
  })
})
