import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { POST } from '@/app/api/webp/route'
import { decodeFrames } from '@/cli/decode'
import { changedPixels, type Picture } from '@/core/image'
import { readClaims } from './claims'
import { muxWebp } from './webp-mux'

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
const ask = (body: Uint8Array<ArrayBuffer>, query = 'lossless=true&quality=80&exact=true') =>
  POST(new Request(`http://quay/api/webp?${query}`, { method: 'POST', body }))
const still = async (of: Picture, query?: string) =>
  new Uint8Array(await (await ask(await png(of), query)).arrayBuffer())

const opaque = (of: Picture): Picture => ({ ...of, data: of.data.map((value, i) => (i % 4 === 3 ? 255 : value)) })

describe('an animated WebP', () => {
  it('is exact without loss: a part of the picture replaces what was there, delays and repeats are as asked', async () => {
    const whole = picture(20, 16, 1)
    const part = picture(8, 6, 2)
    const last = picture(20, 16, 3)
    const bytes = muxWebp(20, 16, true, [
      { still: await still(whole), x: 0, y: 0, width: 20, height: 16, delayMs: 33, over: false },
      { still: await still(part), x: 4, y: 6, width: 8, height: 6, delayMs: 34, over: false },
      { still: await still(last), x: 0, y: 0, width: 20, height: 16, delayMs: 33, over: false },
    ])
    const claims = readClaims(bytes)
    expect(claims).toMatchObject({ format: 'webp', width: 20, height: 16, delaysMs: [33, 34, 33], plays: 0, notes: [] })
    const second = whole.data.slice()
    for (let y = 0; y < 6; y++) second.set(part.data.subarray(y * 32, (y + 1) * 32), ((6 + y) * 20 + 4) * 4)
    const frames: Picture[] = []
    for await (const frame of decodeFrames(bytes, claims)) frames.push(frame)
    const seen = (data: Uint8ClampedArray) => [...data].map((v, i) => (data[i | 3] === 0 ? 0 : v))
    expect(frames.map(({ data }) => seen(data))).toEqual([whole.data, second, last.data].map(seen))
  })
  it('shows what was there before through what a frame that lies over it leaves clear', async () => {
    const whole = opaque(picture(20, 16, 1))
    const next = { ...whole, data: whole.data.slice() }
    next.data.set([9, 8, 7, 255], 4 * (5 * 20 + 6))
    const part = { x: 0, y: 0, width: 20, height: 16 }
    const changed = changedPixels(whole, next, part) as Picture
    expect(changed.data.filter((value) => value !== 0)).toEqual(new Uint8ClampedArray([9, 8, 7, 255]))
    const bytes = muxWebp(20, 16, false, [
      { still: await still(whole), ...part, delayMs: 40, over: false },
      { still: await still(changed, 'lossless=true&quality=80&exact=false'), ...part, delayMs: 40, over: true },
    ])
    const frames: Picture[] = []
    for await (const frame of decodeFrames(bytes, readClaims(bytes))) frames.push(frame)
    expect(frames.map(({ data }) => data)).toEqual([whole.data, next.data])
    expect(changedPixels(whole, opaque(picture(20, 16, 9)), part)).toBeNull()
  })
  it('keeps alpha where it is written with loss', async () => {
    const bytes = muxWebp(20, 16, true, [
      {
        still: await still(picture(20, 16, 1), 'lossless=false&quality=70&exact=false'),
        x: 0,
        y: 0,
        width: 20,
        height: 16,
        delayMs: 40,
        over: false,
      },
    ])
    for await (const { data } of decodeFrames(bytes, readClaims(bytes))) expect([data[3], data[7]]).toEqual([0, 255])
  })
  it('refuses what is no still, or lies elsewhere', async () => {
    const own = await still(picture(20, 16, 1))
    const mux =
      (of: Uint8Array, x = 0) =>
      () =>
        muxWebp(20, 16, false, [{ still: of, x, y: 0, width: 20, height: 16, delayMs: 40, over: false }])
    expect(mux(new Uint8Array(40))).toThrow('is no WebP')
    expect(mux(own.slice(0, 30))).toThrow('breaks off')
    expect(mux(own, 2)).toThrow('outside its picture')
  })
})

describe('the server that writes stills', () => {
  it('refuses in words what is no picture, is damaged, or is not asked for', async () => {
    const refused = async (body: Uint8Array<ArrayBuffer>, query?: string) => {
      const answer = await ask(body, query)
      return [answer.status, ((await answer.json()) as { message: string }).message] as const
    }
    const one = await png(picture(20, 16, 1))
    expect(await refused(new Uint8Array([1, 2, 3]))).toEqual([400, 'The request holds no PNG file.'])
    expect((await refused(one, 'lossless=maybe&quality=80&exact=true'))[1]).toContain('does not say how')
    expect((await refused(one, 'lossless=true&quality=101&exact=true'))[0]).toBe(400)
    const [status, message] = await refused(one.slice(0, 60))
    expect([status, message.startsWith('The picture could not be written as WebP')]).toEqual([422, true])
    // A claim of a picture larger than any canvas.
    const huge = one.slice()
    new DataView(huge.buffer).setUint32(16, 60_000)
    new DataView(huge.buffer).setUint32(20, 60_000)
    expect((await refused(huge))[0]).toBe(422)
  })
})
