import { describe, expect, it } from 'vitest'
import { DITHERINGS, greatestDifference, type Picture } from '@/core/image'
import { PALETTE_CHOICES } from '@/core/output'
import { decodeGif, type GifColours, type GifJob, PLAIN_COLOURS, writeGif } from '.'

/** A frame of one grey of seven, which take turns. */
const tone = (n: number) => 250 - 36 * (n % 7)
const grey = (n: number): Picture => ({
  width: 4,
  height: 3,
  data: Uint8ClampedArray.from({ length: 48 }, (_, i) => (i % 4 === 3 ? 255 : tone(n))),
})
const job = (count: number, more: Partial<GifJob> = {}): GifJob => ({
  width: 4,
  height: 3,
  delaysCs: Array.from({ length: count }, (_, n) => 4 + (n % 2)),
  colours: { ...PLAIN_COLOURS, colours: 64, transparent: false },
  draw: async (n) => grey(n),
  mostKept: 0,
  progress: () => {},
  ...more,
})

/** Left, top, width and height of every image in a GIF without extensions but those of loops and frames. */
function* boxesOf(bytes: Uint8Array): Generator<number[]> {
  const table = (packed: number) => (packed & 0x80 ? 3 << ((packed & 7) + 1) : 0)
  const word = (at: number) => (bytes[at] as number) | ((bytes[at + 1] as number) << 8)
  let at = 13 + table(bytes[10] as number)
  while (bytes[at] !== 0x3b) {
    if (bytes[at] === 0x2c) {
      yield [1, 3, 5, 7].map((offset) => word(at + offset))
      at += 11 + table(bytes[at + 9] as number)
    } else at += 2
    while (bytes[at] !== 0) at += (bytes[at] as number) + 1
    at++
  }
}

describe('writing a GIF while its frames are drawn', () => {
  it.each([1, 2, 12, 13, 29])(
    'writes all %d frames in their order, whatever order they are drawn in',
    async (count) => {
      const late = async (n: number) => {
        for (let turns = (n * 7) % 5; turns > 0; turns--) await Promise.resolve()
        return grey(n)
      }
      const { bytes } = await writeGif(job(count, { draw: late }))
      const shown = [...decodeGif(bytes).frames()].map(({ data }) => data[0] as number)
      expect(shown).toHaveLength(count)
      for (const [n, value] of shown.entries()) expect(Math.abs(value - tone(n))).toBeLessThanOrEqual(4)
    },
  )
  it('has few frames drawn ahead, and keeps no more than it is told to', async () => {
    let drawn = 0
    let written = 0
    let most = 0
    const draw = async (n: number) => {
      drawn++
      return grey(n)
    }
    const progress = (frames: number) => {
      written = frames
      most = Math.max(most, drawn - written)
    }
    const { kept } = await writeGif(job(29, { draw, progress, mostKept: 5 }))
    expect(written).toBe(29)
    // Twelve at most are drawn for the palette first, of which five are kept.
    expect(most).toBeLessThanOrEqual(12 + 3)
    expect(kept.size).toBe(5)
    for (const [n, picture] of kept) expect(picture).toEqual(grey(n))
  })
  it('draws nothing twice where there is room to keep all', async () => {
    const drawn: number[] = []
    const draw = async (n: number) => {
      drawn.push(n)
      return grey(n)
    }
    await writeGif(job(29, { draw, mostKept: 29 }))
    expect(new Set(drawn).size).toBe(drawn.length)
  })
  /** A slope of tones that stands still, and a square that moves over a part of it. */
  const slope = (n: number): Picture => {
    const data = new Uint8ClampedArray(64 * 24 * 4)
    for (let y = 0; y < 24; y++)
      for (let x = 0; x < 64; x++) {
        const inside = y >= 8 && y < 16 && x >= 2 * n && x < 2 * n + 8
        data.set(inside ? [246, 184, 75, 255] : [2 * x + y, 3 * x, 90 + x, 255], 4 * (y * 64 + x))
      }
    return { width: 64, height: 24, data }
  }
  it.each(DITHERINGS.flatMap((dithering) => PALETTE_CHOICES.map((palettes) => [dithering, palettes] as const)))(
    'has a still region stay still under %s dithering with palettes %s',
    async (dithering, palettes) => {
      const colours = { ...PLAIN_COLOURS, colours: 8, dithering, palettes }
      const size = { width: 64, height: 24, delaysCs: Array.from({ length: 20 }, () => 4) }
      const { bytes } = await writeGif(job(20, { ...size, colours, draw: async (n) => slope(n) }))
      const frames = [...decodeGif(bytes).frames()]
      const still = ({ data }: Picture) => [...data.slice(0, 8 * 64 * 4), ...data.slice(16 * 64 * 4)]
      for (const frame of frames) expect(still(frame)).toEqual(still(frames[0] as Picture))
      expect(frames[9]?.data).not.toEqual(frames[0]?.data)
    },
  )
  it('stores only the box of what changes', async () => {
    const size = { width: 64, height: 24, delaysCs: Array.from({ length: 20 }, () => 4) }
    const { bytes } = await writeGif(job(20, { ...size, draw: async (n) => slope(n) }))
    const boxes = [...boxesOf(bytes)]
    expect(boxes[0]).toEqual([0, 0, 64, 24])
    for (const [n, box] of boxes.slice(1).entries()) expect(box).toEqual([2 * n, 8, 10, 8])
  })
  it('writes a loop of which most is clear, whatever frames its palette is made from', async () => {
    const size = { width: 64, height: 24, delaysCs: Array.from({ length: 40 }, () => 4) }
    const clear = { width: 64, height: 24, data: new Uint8ClampedArray(64 * 24 * 4) }
    for (const palettes of PALETTE_CHOICES) {
      const colours = { ...PLAIN_COLOURS, palettes, transparent: true }
      const { bytes } = await writeGif(job(40, { ...size, colours, draw: async (n) => (n === 5 ? slope(0) : clear) }))
      const frames = [...decodeGif(bytes).frames()]
      expect(frames.map(({ data }) => data[3])).toEqual(frames.map((_, n) => (n === 5 ? 255 : 0)))
    }
  })
  it('gives a frame that the common palette does not serve one of its own', async () => {
    const size = { width: 64, height: 24, delaysCs: Array.from({ length: 40 }, () => 4) }
    const odd = (n: number): Picture => {
      const picture = slope(0)
      if (n === 7) for (let i = 0; i < picture.data.length; i += 4) picture.data.set([i % 251, 20, (i >> 4) % 241], i)
      return picture
    }
    const write = (palettes: GifColours['palettes']) =>
      writeGif(job(40, { ...size, colours: { ...PLAIN_COLOURS, palettes }, draw: async (n) => odd(n) }))
    const error = (bytes: Uint8Array) => {
      const data = [...decodeGif(bytes).frames()][7]?.data ?? []
      return odd(7).data.reduce((sum, value, i) => sum + Math.abs(value - (data[i] ?? 0)), 0)
    }
    const one = await write('one')
    const measured = await write('measured')
    expect(measured.ownPalettes).toBe(1)
    expect(error(measured.bytes)).toBeLessThan(0.5 * error(one.bytes))
  })
  it.each([1, 4, 16])('is never off by more than a loss of %d beyond its palette', async (loss) => {
    const drift = (n: number): Picture => {
      const picture = slope(n)
      for (let i = 0; i < picture.data.length; i += 4) picture.data[i] = (picture.data[i] as number) + 2 * n
      return picture
    }
    const size = { width: 64, height: 24, delaysCs: Array.from({ length: 20 }, () => 4) }
    const worst = async (of: number) => {
      const colours = { ...PLAIN_COLOURS, palettes: 'per frame' as const, loss: of }
      const { bytes } = await writeGif(job(20, { ...size, colours, draw: async (n) => drift(n) }))
      const frames = [...decodeGif(bytes).frames()]
      return { bytes, off: Math.max(...frames.map((frame, n) => greatestDifference(frame, drift(n)))) }
    }
    const lossy = await worst(loss)
    const plain = await worst(0)
    expect(lossy.off).toBeLessThanOrEqual(Math.max(loss, plain.off))
    if (loss > 1) expect(lossy.bytes.length).toBeLessThan(plain.bytes.length)
  })
  it('fails with the drawing that fails, and stops when told to', async () => {
    const broken = async (n: number) => {
      if (n === 9) throw new Error('frame 9 cannot be drawn')
      return grey(n)
    }
    await expect(writeGif(job(20, { draw: broken }))).rejects.toThrow('frame 9')
    const enough = () => {
      throw new Error('enough')
    }
    await expect(writeGif(job(20, { progress: enough }))).rejects.toThrow('enough')
  })
})
