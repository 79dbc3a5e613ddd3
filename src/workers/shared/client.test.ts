import { expose } from 'comlink'
import { describe, expect, it } from 'vitest'
import type { Loop } from '@/core/document'
import { type Files, madeAsset } from '@/core/media'
import { noFile, pierOf, wakeOf } from '@/core/testing/media'
import { quay } from '@/core/testing/quay'
import { clientOf, WorkerStopped } from './client'

/** A worker that notes what it is given, in its order. */
function noting() {
  const { port1, port2 } = new MessageChannel()
  const notes: string[] = []
  const service = {
    takeFiles: (files: Files) => void notes.push(`files of ${[...files.values()].map(({ size }) => size)}`),
    draw: (loop: Loop, frame: number) => notes.push(`${loop.name} ${frame}`),
    count: (of: number) => notes.push(`${of}`),
  }
  const listening = Object.assign(port2, { addEventListener: port2.addEventListener.bind(port2) })
  expose(service, listening as unknown as Parameters<typeof expose>[1])
  port1.start()
  const end = () => {
    port1.close()
    port2.close()
  }
  const client = clientOf<typeof service>(Object.assign(port1, { terminate: end }) as unknown as Worker)
  return { client, notes }
}

const bytes = (text: string) => new TextEncoder().encode(text)
const picture = pierOf({ file: await madeAsset('image/png', bytes('pier')) })
const clip = wakeOf([40, 40], { frames: await madeAsset('image/png', [bytes('fore'), bytes('after')]) })
const loop: Loop = { ...quay, media: [picture, clip] }

describe('a loop on its way to a worker', () => {
  it('comes after the files that it is drawn from, which are sent once', async () => {
    const { client, notes } = noting()
    await client.ask((service) => service.draw(loop, 1))
    await client.ask((service) => service.draw({ ...loop, name: 'Quay at noon' }, 2))
    await client.ask((service) => service.count(3))
    const glass = wakeOf([40], { id: 'glass', frames: await madeAsset('image/png', [bytes('glasses')]) })
    await client.ask((service) => service.draw({ ...loop, media: [clip, glass] }, 4))
    expect(notes).toEqual(['files of 4,9', 'Quay 1', 'Quay at noon 2', '3', 'files of 7', 'Quay 4'])
    client.end()
  })
  it('is sent without a file that is missing, and with it when it is there', async () => {
    const { client, notes } = noting()
    const lost = { ...quay, media: [pierOf({ file: noFile(77) })] }
    await client.ask((service) => service.draw(lost, 1))
    const file = await madeAsset('image/png', bytes('found again'))
    await client.ask((service) => service.draw({ ...quay, media: [pierOf({ file })] }, 2))
    expect(notes).toEqual(['files of ', 'Quay 1', 'files of 11', 'Quay 2'])
    client.end()
  })
})

describe('a worker that is ended', () => {
  it('leaves nothing waiting: what was asked is told that it was stopped', async () => {
    const { client } = noting()
    const asked = client.ask(() => new Promise<never>(() => {}))
    client.end()
    await expect(asked).rejects.toBeInstanceOf(WorkerStopped)
  })
})
