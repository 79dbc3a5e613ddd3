import fc from 'fast-check'
import sharp from 'sharp'
import UPNG from 'upng-js'
import { describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { seeded } from '@/core/random'
import { Bytes, ClipError } from './claims'
import { composeApng, pngOfPart } from './compose'
import { type PngFrame, readPng } from './png'

const W = 6
const H = 5
const solid = (width: number, height: number, rgba: readonly number[]): Picture => {
  const data = new Uint8ClampedArray(width * height * 4)
  for (let i = 0; i < width * height; i++) data.set(rgba, 4 * i)
  return { width, height, data }
}
const part = (more: Partial<PngFrame>): PngFrame => ({
  x: 0,
  y: 0,
  width: W,
  height: H,
  delayMs: 40,
  dispose: 0,
  over: false,
  data: [],
  ...more,
})
async function shownOf(parts: readonly (PngFrame & { readonly rgba: readonly number[] })[]): Promise<Picture[]> {
  const shown: Picture[] = []
  const of = new Map<PngFrame, Picture>(parts.map((each) => [each, solid(each.width, each.height, each.rgba)]))
  for await (const picture of composeApng(
    { width: W, height: H, frames: parts },
    async (each) => of.get(each) as Picture,
  ))
    shown.push(picture)
  return shown
}
const at = ({ data }: Picture, x: number, y: number) => [...data.subarray((y * W + x) * 4, (y * W + x) * 4 + 4)]
const SEA = [11, 34, 48, 255]
const LAMP = [242, 181, 74, 255]

describe('the frames of an APNG', () => {
  const small = { x: 1, y: 1, width: 2, height: 2 }
  it('are left, cleared, or taken back to what was there', async () => {
    const [, second, third, fourth] = await shownOf([
      { ...part({}), rgba: SEA as number[] },
      { ...part({ ...small, dispose: 2 }), rgba: LAMP as number[] },
      { ...part({ ...small, x: 3, dispose: 1 }), rgba: LAMP as number[] },
      { ...part({ x: 5, y: 4, width: 1, height: 1 }), rgba: LAMP as number[] },
    ])
    expect(at(second as Picture, 1, 1)).toEqual(LAMP)
    expect(at(third as Picture, 1, 1)).toEqual(SEA)
    expect(at(third as Picture, 3, 1)).toEqual(LAMP)
    expect(at(fourth as Picture, 3, 1)).toEqual([0, 0, 0, 0])
    expect(at(fourth as Picture, 0, 0)).toEqual(SEA)
  })
  it('are laid over what is there, or replace it', async () => {
    const half = [242, 181, 74, 128]
    const [, over] = await shownOf([
      { ...part({}), rgba: SEA as number[] },
      { ...part({ ...small, over: true }), rgba: half },
    ])
    const [r = 0, g = 0, b = 0, a] = at(over as Picture, 1, 1)
    expect(a).toBe(255)
    for (const [seen, lamp, sea] of [
      [r, 242, 11],
      [g, 181, 34],
      [b, 74, 48],
    ] as const)
      expect(Math.abs(seen - (lamp * 128 + sea * 127) / 255)).toBeLessThan(1)
    const [, instead] = await shownOf([
      { ...part({}), rgba: SEA as number[] },
      { ...part(small), rgba: half },
    ])
    expect(at(instead as Picture, 1, 1)).toEqual(half)
  })
  it('begin on a clear ground, also where the first is to be taken back', async () => {
    const [, second] = await shownOf([
      { ...part({ dispose: 2 }), rgba: SEA as number[] },
      { ...part({ width: 1, height: 1 }), rgba: LAMP as number[] },
    ])
    expect(at(second as Picture, 0, 0)).toEqual(LAMP)
    expect(at(second as Picture, 4, 4)).toEqual([0, 0, 0, 0])
  })
  it('are those that another decoder shows', async () => {
    // Of more than 256 colours, since with a palette this encoder leaves out the end of its files.
    const side = 24
    const noise = (seed: number, from: number): Uint8ClampedArray => {
      const data = new Uint8ClampedArray(side * side * 4)
      for (let i = from * 4; i < data.length; i += 4)
        if (seeded(seed, i) > 0.2) data.set([1, 2, 3].map((c) => 255 * seeded(seed, i + c)).concat(255), i)
      return data
    }
    const picture = fc.tuple(fc.nat(9999), fc.nat(side * 8)).map(([seed, from]) => noise(seed, from))
    await fc.assert(
      fc.asyncProperty(fc.array(picture, { minLength: 2, maxLength: 5 }), async (pictures) => {
        const delays = pictures.map((_, n) => 20 + 10 * n)
        const buffers = pictures.map((data) => data.slice().buffer)
        const file = new Uint8Array(UPNG.encode(buffers, side, side, 0, delays))
        const png = readPng(file)
        const decode = async (frame: PngFrame): Promise<Picture> => {
          const { data, info } = await sharp(pngOfPart(png, frame))
            .ensureAlpha()
            .raw()
            .toBuffer({ resolveWithObject: true })
          return { width: info.width, height: info.height, data: new Uint8ClampedArray(data) }
        }
        const shown: Picture[] = []
        for await (const each of composeApng(png, decode)) shown.push(each)
        const other = UPNG.toRGBA8(UPNG.decode(file.slice().buffer)).map((buffer) => new Uint8ClampedArray(buffer))
        expect(png.delaysMs).toEqual(delays)
        expect(shown).toHaveLength(other.length)
        shown.forEach(({ data }, n) => {
          for (let i = 0; i < data.length; i += 4) {
            const theirs = [...(other[n] as Uint8ClampedArray).subarray(i, i + 4)]
            const ours = [...data.subarray(i, i + 4)]
            if (theirs[3] === 0) expect(ours[3]).toBe(0)
            else expect(ours).toEqual(theirs)
          }
        })
      }),
      { numRuns: 40 },
    )
  })
})

describe('bytes of a file', () => {
  const bytes = new Bytes(new Uint8Array([1, 2, 3, 4, 65, 66]), 'GIF')
  it('are numbers in both orders, and letters', () => {
    expect([bytes.u8(0), bytes.u16le(0), bytes.u16be(0), bytes.u24le(1), bytes.u32le(0), bytes.u32be(0)]).toEqual([
      1, 0x0201, 0x0102, 0x040302, 0x04030201, 0x01020304,
    ])
    expect(bytes.text(4, 2)).toBe('AB')
  })
  it('break off in words, wherever more is asked for than there is', () => {
    for (const read of [
      () => bytes.u8(6),
      () => bytes.u16le(5),
      () => bytes.u24le(4),
      () => bytes.u32be(3),
      () => bytes.text(5, 2),
    ])
      expect(read).toThrow(ClipError)
    expect(() => bytes.u8(99)).toThrow('breaks off after 6 bytes')
  })
})
