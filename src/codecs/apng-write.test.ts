import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { decodeFrames } from '@/cli/decode'
import { TOOLS } from '@/cli/write'
import { COMMON_RATES, fileTiming, fraction, toNumber } from '@/core/clock'
import { changedBox, changedPixels, type Picture } from '@/core/image'
import { PLAIN_SETTINGS } from '@/core/output'
import { quay } from '@/core/testing/quay'
import { EXACT_PIXELS, type FilePromise, NEAR_PIXELS, proveFile } from '.'
import { ApngWriter } from './apng-write'
import { readClaims } from './claims'
import { apng } from './write/apng'

const png = async ({ data, width, height }: Picture, part = { x: 0, y: 0, width, height }): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(data, { raw: { width, height, channels: 4 } })
      .extract({ left: part.x, top: part.y, width: part.width, height: part.height })
      .png()
      .toBuffer(),
  )

const clip = fc.tuple(fc.integer({ min: 2, max: 12 }), fc.integer({ min: 2, max: 12 })).chain(([width, height]) =>
  fc
    .array(fc.uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 }), {
      minLength: 1,
      maxLength: 6,
    })
    .map((frames) => frames.map((data): Picture => ({ width, height, data: new Uint8ClampedArray(data) }))),
)
/** Frames of which some differ in a few pixels alone, and some not at all. */
const related = clip.map((pictures) =>
  pictures.map((picture, n) => {
    const first = pictures[0] as Picture
    if (n % 3 === 1) return { ...first, data: first.data.map((v, i) => (i < 8 ? (picture.data[i] as number) : v)) }
    return n % 3 === 2 ? { ...first, data: first.data.slice() } : picture
  }),
)

const isOpaque = ({ data }: Picture) => data.every((value, i) => i % 4 < 3 || value === 255)

async function write(pictures: readonly Picture[], rate = fraction(25)) {
  const [{ width, height }] = pictures as [Picture]
  const { delays } = fileTiming('apng', pictures.length, rate)
  const writer = new ApngWriter(width, height, delays)
  for (const [n, picture] of pictures.entries()) {
    const part = n === 0 ? { x: 0, y: 0, width, height } : changedBox(pictures[n - 1] as Picture, picture)
    const before = pictures[n - 1]
    const pixels = before && isOpaque(picture) ? changedPixels(before, picture, part) : null
    writer.add({
      png: await png(pixels ?? picture, pixels ? undefined : part),
      x: part.x,
      y: part.y,
      over: pixels !== null,
    })
  }
  return writer.finish()
}
async function read(bytes: Uint8Array): Promise<Picture[]> {
  const frames: Picture[] = []
  for await (const frame of decodeFrames(bytes, readClaims(bytes))) frames.push(frame)
  return frames
}

describe('an APNG', () => {
  it('gives back the frames that went in, to the byte, though only what changed is stored', async () => {
    await fc.assert(
      fc.asyncProperty(related, async (pictures) => {
        const bytes = await write(pictures)
        const frames = await read(bytes)
        expect(frames.map(({ data }) => [...data])).toEqual(pictures.map(({ data }) => [...data]))
        if (pictures.length > 1) expect(readClaims(bytes)).toMatchObject({ format: 'apng', plays: 0, notes: [] })
      }),
      { numRuns: 40 },
    )
  })
  it('says the exact delay of every common rate', async () => {
    const still: Picture = { width: 2, height: 2, data: new Uint8ClampedArray(16).fill(255) }
    for (const rate of COMMON_RATES.filter((each) => toNumber(each) <= 90)) {
      const { delaysMs } = readClaims(await write([still, still, still], rate))
      for (const delay of delaysMs) expect(delay).toBeCloseTo(1000 / toNumber(rate), 9)
    }
  })
  it('is refused where frames are missing, or the first is not the whole picture', async () => {
    const still: Picture = { width: 4, height: 4, data: new Uint8ClampedArray(64).fill(200) }
    const writer = new ApngWriter(4, 4, [fraction(1, 25), fraction(1, 25)])
    const part = await png(still, { x: 0, y: 0, width: 2, height: 2 })
    expect(() => writer.add({ png: part, x: 0, y: 0, over: false })).toThrow('the whole one')
    writer.add({ png: await png(still), x: 0, y: 0, over: false })
    expect(() => writer.finish()).toThrow('1 of 2 frames')
  })
})

describe('the proof of a file', () => {
  const N = 12
  const turning = Array.from({ length: N }, (_, n): Picture => {
    const data = new Uint8ClampedArray(32 * 32 * 4)
    const cx = 16 + 9 * Math.cos((2 * Math.PI * n) / N)
    const cy = 16 + 9 * Math.sin((2 * Math.PI * n) / N)
    for (let i = 0; i < data.length; i += 4) {
      const lit = Math.hypot(((i / 4) % 32) - cx, Math.floor(i / 4 / 32) - cy) < 6
      data.set(lit ? [242, 181, 74, 255] : [11, 34, 48, 255], i)
    }
    return { width: 32, height: 32, data }
  })
  const promise: FilePromise = {
    width: 32,
    height: 32,
    frames: N,
    delaysMs: new Array<number>(N).fill(40),
    toleranceMs: 0,
    frame: (n) => turning[n] as Picture,
    transparent: false,
    saysRepeats: true,
    pixels: EXACT_PIXELS,
    verdict: null,
  }
  const failing = async (bytes: Uint8Array) => {
    const { width, height, delaysMs, plays } = readClaims(bytes)
    const file = { width, height, delaysMs, playsForever: plays === 0, frames: await read(bytes) }
    return (await proveFile(bytes.length, file, promise)).lines.filter(({ holds }) => !holds).map(({ what }) => what)
  }

  it('holds for an APNG that is as it was meant', async () => expect(await failing(await write(turning))).toEqual([]))
  it('names a frame that is missing, repeated or blank, and a pixel that is off', async () => {
    const blank = { ...(turning[0] as Picture), data: new Uint8ClampedArray(32 * 32 * 4).fill(0) }
    expect(await failing(await write(turning.slice(0, -1)))).toEqual(expect.arrayContaining(['frames', 'delays']))
    const twice = [...turning.slice(0, 6), turning[5] as Picture, ...turning.slice(7)]
    expect(await failing(await write(twice))).toEqual(expect.arrayContaining(['pixels', 'seam']))
    expect(await failing(await write([...turning.slice(0, -1), blank]))).toEqual(['pixels', 'alpha', 'seam'])
    const off = turning.map((picture) => ({ ...picture, data: picture.data.map((v, i) => (i === 0 ? v + 1 : v)) }))
    expect(await failing(await write(off))).toEqual(['pixels'])
  })
  it('names a changed delay, and a file that does not repeat for ever', async () => {
    expect(await failing(await write(turning, fraction(24)))).toEqual(['time of one loop', 'delays'])
    const bytes = await write(turning)
    const at = bytes.findIndex((_, i) => String.fromCharCode(...bytes.subarray(i, i + 4)) === 'acTL')
    bytes[at + 11] = 1
    expect(await failing(bytes)).toEqual(['repeats'])
  })
  it('names an end that is smeared where pixels only have to be near', async () => {
    const smeared = turning.map((picture, n) => ({
      ...picture,
      data: picture.data.map((v, i) => (n % (N - 1) === 0 && i % 4 < 3 ? v + 4 : v)),
    }))
    const file = { width: 32, height: 32, delaysMs: promise.delaysMs, playsForever: null, frames: smeared }
    const { lines } = await proveFile(1, file, { ...promise, saysRepeats: false, pixels: NEAR_PIXELS })
    expect(lines.filter(({ holds }) => !holds).map(({ what }) => what)).toEqual(['quality at the seam'])
  })
})

describe('an APNG of an opaque loop', () => {
  const width = 32
  const height = 24
  /** A square of a colour that moves over noise. */
  const frames = (colour: readonly [number, number, number]): Picture[] =>
    Array.from({ length: 6 }, (_, n) => {
      const data = new Uint8ClampedArray(width * height * 4)
      for (let i = 0; i < width * height; i++) {
        const inside = Math.floor(i / width) < 5 && (i % width) - n >= 0 && (i % width) - n < 6
        data.set(inside ? [...colour, 255] : [...noiseAt(i), 255], 4 * i)
      }
      return { width, height, data }
    })
  const noiseAt = (i: number) => [(i * 7919) % 251, (i * 104729) % 241, (i * 1299709) % 239] as const
  const encoded = async (pictures: readonly Picture[], clearColours: boolean) => {
    const settings = { ...PLAIN_SETTINGS, format: 'apng' as const }
    const { bytes } = await apng({
      loop: quay,
      name: 'quay',
      width,
      height,
      timing: fileTiming('apng', pictures.length, fraction(25)),
      rate: fraction(25),
      settings,
      transparent: false,
      draw: async (n) => pictures[n] as Picture,
      progress: async () => {},
      tools: { ...TOOLS, clearColours },
      mostKept: 0,
    })
    return bytes
  }
  it.each([true, false])(
    'comes back to the byte, by a colour that stands for clear or not (%s), and is lighter',
    async (by) => {
      const pictures = frames([240, 180, 75])
      const bytes = await encoded(pictures, by)
      expect((await read(bytes)).map(({ data }) => data)).toEqual(pictures.map(({ data }) => data))
      expect(bytes.length).toBeLessThan((await write(pictures)).length)
    },
  )
  it('finds another colour where a frame has the one that was to stand for clear, and does without where it has all', async () => {
    for (const colour of [
      [0, 0, 1],
      [1, 0, 0],
    ] as const) {
      const pictures = frames(colour)
      expect((await read(await encoded(pictures, true))).map(({ data }) => data)).toEqual(
        pictures.map(({ data }) => data),
      )
    }
    const all = frames([240, 180, 75])
    const taken = [
      [0, 0, 1],
      [1, 0, 0],
      [0, 1, 0],
      [1, 255, 2],
      [254, 1, 253],
    ] as const
    for (const { data } of all) for (const [i, colour] of taken.entries()) data.set(colour, 4 * (700 + i))
    const bytes = await encoded(all, true)
    expect(new TextDecoder('latin1').decode(bytes)).not.toContain('tRNS')
    expect((await read(bytes)).map(({ data }) => data)).toEqual(all.map(({ data }) => data))
  })
})
