import fc from 'fast-check'
import sharp from 'sharp'
import UPNG from 'upng-js'
import { describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { decodeFrames } from '../../cli/decode'
import { applyPalette, GIFEncoder, quantize } from '../gifenc'
import { ClipError, type FileClaims, MAX_CLAIMED_FRAMES, readClaims } from '.'

const W = 12
const H = 10
/** A lamp that wanders over a sea, one place per frame. */
const picture = (n: number, clear = false): Picture => {
  const data = new Uint8ClampedArray(W * H * 4)
  for (let i = 0; i < W * H; i++) data.set(clear ? [0, 0, 0, 0] : [11, 34, 48, 255], 4 * i)
  for (let y = 3; y < 7; y++) for (let x = 0; x < 3; x++) data.set([242, 181, 74, 255], 4 * (y * W + ((x + n) % W)))
  return { width: W, height: H, data }
}
const frames = (count: number, clear = false) => Array.from({ length: count }, (_, n) => picture(n, clear))

function gif(pictures: readonly Picture[], delays: readonly number[], repeat: number): Uint8Array {
  const encoder = GIFEncoder()
  pictures.forEach(({ data }, n) => {
    const palette = quantize(data, 16, { format: 'rgba4444', oneBitAlpha: true })
    const transparentIndex = palette.findIndex(([, , , a]) => a === 0)
    encoder.writeFrame(applyPalette(data, palette, 'rgba4444'), W, H, {
      palette,
      delay: delays[n] ?? 0,
      ...(n === 0 ? { repeat } : {}),
      ...(transparentIndex >= 0 ? { transparent: true, transparentIndex, dispose: 2 } : {}),
    })
  })
  encoder.finish()
  return new Uint8Array(encoder.bytes())
}
const apng = (pictures: readonly Picture[], delays: readonly number[]) =>
  new Uint8Array(
    UPNG.encode(
      pictures.map(({ data }) => data.slice().buffer),
      W,
      H,
      0,
      [...delays],
    ),
  )
async function webp(pictures: readonly Picture[], delay: readonly number[], loop: number): Promise<Uint8Array> {
  const raw = { width: W, height: H * pictures.length, channels: 4 as const, pageHeight: H }
  const strip = Buffer.concat(pictures.map(({ data }) => Buffer.from(data)))
  return new Uint8Array(
    await sharp(strip, { raw })
      .webp({ lossless: true, exact: true, delay: [...delay], loop })
      .toBuffer(),
  )
}
async function decoded(file: Uint8Array, claims: FileClaims = readClaims(file)): Promise<Picture[]> {
  const shown: Picture[] = []
  for await (const each of decodeFrames(file, claims)) shown.push(each)
  return shown
}
const delays = [40, 30, 70, 40, 120]

describe('what a file claims, and what it contains', () => {
  it('a GIF: delays, repeats, frames with palettes of their own', async () => {
    const file = gif(frames(5), delays, 0)
    expect(readClaims(file)).toMatchObject({
      format: 'gif',
      width: W,
      height: H,
      delaysMs: delays,
      plays: 0,
      notes: [],
    })
    expect((await decoded(file)).map(({ data }) => [...data.slice(160, 200)])).toEqual(
      frames(5).map(({ data }) => [...data.slice(160, 200)]),
    )
    expect(readClaims(gif(frames(5), delays, -1)).plays).toBe(1)
    expect(readClaims(gif(frames(5), delays, 2)).plays).toBe(3)
  })
  it('a GIF with clear ground that is cleared between frames', async () => {
    const shown = await decoded(gif(frames(4, true), delays, 0))
    expect(shown.map(({ data }) => data[3])).toEqual([0, 0, 0, 0])
    shown.forEach((each, n) => {
      for (const [i, alpha] of each.data.entries()) if (i % 4 === 3) expect(alpha).toBe(picture(n, true).data[i])
    })
  })
  it('an APNG: partial frames, fractions of a second', async () => {
    const file = apng(frames(5), delays)
    expect(readClaims(file)).toMatchObject({ format: 'apng', width: W, height: H, delaysMs: delays, plays: 0 })
    expect((await decoded(file)).map(({ data }) => [...data])).toEqual(frames(5).map(({ data }) => [...data]))
    const clear = await decoded(apng(frames(4, true), delays))
    expect(clear.map(({ data }) => [...data])).toEqual(frames(4, true).map(({ data }) => [...data]))
  })
  it('a WebP: delays in milliseconds', async () => {
    const file = await webp(frames(5), delays, 3)
    expect(readClaims(file)).toMatchObject({ format: 'webp', width: W, height: H, delaysMs: delays, plays: 3 })
    expect((await decoded(file)).map(({ data }) => [...data])).toEqual(frames(5).map(({ data }) => [...data]))
  })
  it('stills are one frame', async () => {
    const still = await sharp(picture(0).data, { raw: { width: W, height: H, channels: 4 } })
    for (const file of [await still.clone().png().toBuffer(), await still.clone().webp().toBuffer()]) {
      expect(readClaims(new Uint8Array(file))).toMatchObject({ width: W, height: H, delaysMs: [0] })
      expect(await decoded(new Uint8Array(file))).toHaveLength(1)
    }
  })
  it('zero delays, one pixel and two thousand frames', async () => {
    expect(readClaims(gif(frames(3), [0, 0, 0], 0)).delaysMs).toEqual([0, 0, 0])
    const raw = { width: 1, height: 1, channels: 4 as const }
    const dot = new Uint8Array(
      await sharp(new Uint8Array([1, 2, 3, 255]), { raw })
        .png()
        .toBuffer(),
    )
    expect((await decoded(dot))[0]).toMatchObject({ width: 1, height: 1 })
    const many = gif(
      Array.from({ length: 2000 }, (_, n) => picture(n)),
      new Array(2000).fill(20),
      0,
    )
    expect(await decoded(many)).toHaveLength(2000)
  })
  it('do without the mark of the end, as viewers do', async () => {
    for (const file of [gif(frames(3), delays, 0), apng(frames(3), delays)]) {
      for (const missing of file[0] === 0x47 ? [1] : [12, 5]) {
        const unmarked = file.slice(0, file.length - missing)
        expect(readClaims(unmarked).notes).toEqual(['the mark of its end is missing'])
        expect(await decoded(unmarked)).toHaveLength(3)
      }
    }
  })
  it('bytes after the end do no harm, and are said', async () => {
    for (const file of [gif(frames(3), delays, 0), apng(frames(3), delays), await webp(frames(3), delays, 0)]) {
      const longer = new Uint8Array([...file, ...new Array(40).fill(7)])
      expect(readClaims(longer).notes).toEqual([expect.stringContaining('40 bytes follow the end')])
      expect(await decoded(longer)).toHaveLength(3)
    }
  })
})

describe('a file that cannot be read', () => {
  const refuses = (file: Uint8Array, words: RegExp) => expect(() => readClaims(file)).toThrow(words)
  it('is told what is wrong with it', async () => {
    refuses(new Uint8Array(0), /empty/)
    refuses(new TextEncoder().encode('not a picture'), /does not begin as any moving picture/)
    refuses(new Uint8Array(5000), /filled with zeros/)
    refuses(new TextEncoder().encode('<svg xmlns="x"/>'), /SVG drawing/)
    const broken = gif(frames(3), delays, 0)
    refuses(broken.slice(0, broken.length - 20), /breaks off after \d+ bytes/)
    refuses(apng(frames(3), delays).slice(0, 200), /breaks off/)
    refuses((await webp(frames(3), delays, 0)).slice(0, 90), /breaks off/)
  })
  it('that claims 30,000 × 30,000 px is refused before a pixel of it is decoded', () => {
    const small = gif(frames(2), delays, 0)
    new DataView(small.buffer).setUint16(6, 30_000, true)
    new DataView(small.buffer).setUint16(8, 30_000, true)
    refuses(small, /claims 30000 × 30000 px/)
    const png = apng(frames(2), delays)
    new DataView(png.buffer).setUint32(16, 30_000)
    new DataView(png.buffer).setUint32(20, 30_000)
    refuses(png, /claims 30000 × 30000 px/)
  })
  it('with more frames than can be worked with is refused', () => {
    const one = gif(frames(1), [20], 0)
    const image = one.slice(one.indexOf(0x21), one.length - 1)
    const head = one.slice(0, one.indexOf(0x21))
    const file = new Uint8Array(head.length + image.length * (MAX_CLAIMED_FRAMES + 1) + 1)
    file.set(head)
    for (let n = 0; n <= MAX_CLAIMED_FRAMES; n++) file.set(image, head.length + n * image.length)
    file[file.length - 1] = 0x3b
    refuses(file, /claims 20001 frames/)
  })
  it('damaged anywhere, is read or refused in words, and never more than it claims', async () => {
    let read = 0
    const originals = [gif(frames(4), delays, 0), apng(frames(4), delays), await webp(frames(4), delays, 0)]
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...originals),
        fc.array(fc.tuple(fc.nat(1000), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        fc.nat(1000),
        async (original, changes, cut) => {
          const file = original.slice(0, cut < 300 ? Math.floor((original.length * cut) / 300) : undefined)
          for (const [at, byte] of changes) if (file.length > 0) file[Math.floor((at / 1001) * file.length)] = byte
          try {
            const claims = readClaims(file)
            if (claims.width * claims.height > 1e6) return
            const shown = await decoded(file, claims)
            expect(shown.length).toBeLessThanOrEqual(claims.delaysMs.length)
            read++
          } catch (error) {
            expect(error).toBeInstanceOf(ClipError)
            expect((error as Error).message.length).toBeGreaterThan(15)
          }
        },
      ),
      { numRuns: 150 },
    )
    expect(read).toBeGreaterThanOrEqual(15)
  })
})

describe('a frame that promises pixels', () => {
  const SIDE = 3000
  const flat = new Uint8Array(SIDE * SIDE)
  const refused = 'which its bytes cannot hold'

  it('is read where its bytes are as few as they can be', async () => {
    const encoder = GIFEncoder()
    encoder.writeFrame(flat, SIDE, SIDE, { palette: [[11, 34, 48]], delay: 40 })
    encoder.finish()
    expect(readClaims(new Uint8Array(encoder.bytes()))).toMatchObject({ width: SIDE, height: SIDE })
    for (const [channels, bits] of [
      [1, 1],
      [1, 8],
      [4, 8],
      [4, 16],
    ] as const) {
      const raw = { width: SIDE, height: SIDE, channels } as const
      const one = sharp(new Uint8Array(SIDE * SIDE * channels), { raw })
      const png = await one
        .toColourspace(bits === 16 ? 'rgb16' : 'srgb')
        .png({ compressionLevel: 9, palette: bits === 1, colours: 2 })
        .toBuffer()
      expect(readClaims(new Uint8Array(png)), `${channels} samples of ${bits} bits`).toMatchObject({ width: SIDE })
    }
  })
  it('that is not in its bytes is refused: GIF', () => {
    const u16 = (value: number) => [value & 255, value >> 8]
    /** A GIF of one frame, whose data are four bytes (GIF89a, § 18–22). */
    const small = (side: number) => {
      const head = [...u16(side), ...u16(side), 0x80, 0, 0, 0, 0, 0, 255, 255, 255]
      const frame = [0x2c, 0, 0, 0, 0, ...u16(side), ...u16(side), 0, 2, 2, 0x4c, 0x01, 0]
      return Uint8Array.from([...Buffer.from('GIF89a'), ...head, ...frame, 0x3b])
    }
    expect(readClaims(small(2))).toMatchObject({ width: 2 })
    expect(() => readClaims(small(8000))).toThrow(`promises 64000000 pixels, ${refused}`)
  })
  it('that is not in its bytes is refused: PNG and APNG', () => {
    for (const count of [1, 3]) {
      const file = Buffer.from(apng(frames(count), delays.slice(0, count)))
      const control = file.indexOf('fcTL')
      for (const at of control < 0 ? [16] : [16, control + 8]) {
        file.writeUInt32BE(8000, at)
        file.writeUInt32BE(8000, at + 4)
      }
      expect(() => readClaims(file)).toThrow(
        `Frame 0 of the ${count > 1 ? 'APNG' : 'PNG'} file promises 64000000 pixels, ${refused}`,
      )
    }
  })
})
