import { zipSync } from 'fflate'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { POST } from '@/app/api/webp/route'
import { decodeFrames } from '@/cli/decode'
import type { Picture } from '@/core/image'
import { readClaims } from './claims'
import { packWebpRequest, unpackWebpRequest, type WebpManifest } from './webp-request'

const picture = (width: number, height: number, seed: number): Picture => ({
  width,
  height,
  data: Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) =>
    i % 4 === 3 ? ((i >> 2) % 5 === 0 ? 0 : 255) : (i * 31 + seed * 77) % 256,
  ),
})
const png = async ({ data, width, height }: Picture) =>
  new Uint8Array(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .png()
      .toBuffer(),
  )
const ask = (body: Uint8Array<ArrayBuffer>) => POST(new Request('http://quay/api/webp', { method: 'POST', body }))
const manifest = (more: Partial<WebpManifest> = {}): WebpManifest => ({
  ...{ width: 20, height: 16, lossless: true, quality: 80 },
  frames: [
    { x: 0, y: 0, delayMs: 33 },
    { x: 4, y: 6, delayMs: 34 },
    { x: 0, y: 0, delayMs: 33 },
  ],
  ...more,
})

describe('an animated WebP from the server', () => {
  it('is exact without loss: a part of the picture replaces what was there, delays and repeats are as asked', async () => {
    const [whole, part, last] = [picture(20, 16, 1), picture(8, 6, 2), picture(20, 16, 3)]
    const pictures = await Promise.all([whole, part, last].map(png))
    const answer = await ask(packWebpRequest({ manifest: manifest(), pictures }))
    expect(answer.headers.get('content-type')).toBe('image/webp')
    const bytes = new Uint8Array(await answer.arrayBuffer())
    const claims = readClaims(bytes)
    expect(claims).toMatchObject({ format: 'webp', width: 20, height: 16, delaysMs: [33, 34, 33], plays: 0 })
    const second = whole.data.slice()
    for (let y = 0; y < 6; y++) second.set(part.data.subarray(y * 32, (y + 1) * 32), ((6 + y) * 20 + 4) * 4)
    const frames: Picture[] = []
    for await (const frame of decodeFrames(bytes, claims)) frames.push(frame)
    const seen = (data: Uint8ClampedArray) => [...data].map((v, i) => (data[i | 3] === 0 ? 0 : v))
    expect(frames.map(({ data }) => seen(data))).toEqual([whole.data, second, last.data].map(seen))
  })
  it('is refused in words where the request is none, too large, lacks a picture or holds one that is damaged', async () => {
    const refused = async (body: Uint8Array<ArrayBuffer>) => {
      const answer = await ask(body)
      return [answer.status, ((await answer.json()) as { message: string }).message] as const
    }
    const one = await png(picture(20, 16, 1))
    const zip = (said: unknown, files = {}) =>
      zipSync({ 'manifest.json': new TextEncoder().encode(JSON.stringify(said)), ...files }) as Uint8Array<ArrayBuffer>
    expect(await refused(new Uint8Array([1, 2, 3]))).toEqual([400, 'The request is no set of frames for a WebP.'])
    expect((await refused(zip(manifest({ width: 90_000 }), { '0.png': one })))[0]).toBe(400)
    expect((await refused(zip(manifest({ frames: [{ x: 3, y: 0, delayMs: 9 }] }), { '0.png': one })))[0]).toBe(400)
    expect(await refused(zip(manifest(), { '0.png': one }))).toEqual([400, 'Picture 1 is missing from the request.'])
    const broken = packWebpRequest({
      manifest: manifest({ frames: [{ x: 0, y: 0, delayMs: 40 }] }),
      pictures: [one.slice(0, 40)],
    })
    expect((await refused(broken))[0]).toBe(422)
  })
  it('comes back from its envelope as it went in', () => {
    const request = { manifest: manifest(), pictures: [1, 2, 3].map((n) => new Uint8Array([n, n])) }
    expect(unpackWebpRequest(packWebpRequest(request))).toEqual(request)
  })
})
