import { readFileSync } from 'node:fs'
import sharp, { type Sharp } from 'sharp'
import { describe, expect, it } from 'vitest'
import { claimedSize, hasSides, refuseHuge } from './size'

const SIDES = { width: 70, height: 50 }
const plain = sharp({ create: { ...SIDES, channels: 3, background: '#0b2230' } })
const bytesOf = async (image: Sharp) => new Uint8Array(await image.toBuffer())

const KINDS = {
  PNG: plain.clone().png(),
  'JPEG in one pass': plain.clone().jpeg(),
  'JPEG in several, with colours and a note': plain.clone().withMetadata().jpeg({ progressive: true }),
  GIF: plain.clone().gif(),
  'WebP with loss': plain.clone().webp(),
  'WebP without': plain.clone().webp({ lossless: true }),
  'WebP with alpha': plain.clone().ensureAlpha(0.5).webp(),
  AVIF: plain.clone().avif({ effort: 0 }),
}

describe('what the head of a picture says', () => {
  it.each(Object.entries(KINDS))('is its size: %s', async (_, image) =>
    expect(claimedSize(await bytesOf(image))).toEqual(SIDES),
  )
  it('is found behind bytes that decoders pass over: JPEG', async () => {
    const jpeg = await bytesOf(KINDS['JPEG in one pass'])
    const end = 4 + new DataView(jpeg.buffer, jpeg.byteOffset).getUint16(4)
    const padded = Uint8Array.from([...jpeg.subarray(0, end), 0, 7, 0xff, 0xff, ...jpeg.subarray(end)])
    expect(claimedSize(padded)).toEqual(SIDES)
    const { width, height } = await sharp(padded, { failOn: 'none' }).metadata()
    expect({ width, height }).toEqual(SIDES)
  })
  it('is none where it is no picture, or is cut', async () => {
    expect(claimedSize(new Uint8Array())).toBeNull()
    expect(claimedSize(new TextEncoder().encode('a log of the lighthouse, and no picture'))).toBeNull()
    for (const image of Object.values(KINDS)) {
      const bytes = await bytesOf(image)
      // Wherever it is cut there is an answer, and it is none or the right one.
      for (let length = 0; length < Math.min(bytes.length, 700); length++)
        expect([null, SIDES]).toContainEqual(claimedSize(bytes.subarray(0, length)))
    }
  })
  it('is held against what can be worked with before anything is decoded', async () => {
    const side = 20_000
    // Only the size in the header is changed: encoding 400 million pixels would take long.
    const png = Buffer.from(await bytesOf(KINDS.PNG))
    png.writeUInt32BE(side, 16)
    png.writeUInt32BE(side, 20)
    expect(() => refuseHuge(png, 'picture')).toThrow('20000 × 20000 px, more than')
    const avif = Buffer.from(readFileSync('e2e/fixtures/lamp.avif'))
    expect(() => refuseHuge(avif, 'AVIF')).not.toThrow()
    const at = avif.indexOf('ispe')
    avif.writeUInt32BE(side, at + 8)
    avif.writeUInt32BE(side, at + 12)
    expect(() => refuseHuge(avif, 'AVIF')).toThrow('20000 × 20000 px, more than')
  })
  it('is what a document says, which may have it turned', async () => {
    const jpeg = await bytesOf(KINDS['JPEG in one pass'])
    expect(hasSides(jpeg, SIDES)).toBe(true)
    expect(hasSides(jpeg, { width: 50, height: 70 })).toBe(true)
    expect(hasSides(jpeg, { width: 70, height: 70 })).toBe(false)
    expect(hasSides(jpeg, { width: 50, height: 50 })).toBe(false)
  })
})
