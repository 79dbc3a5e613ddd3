import { describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { decodeGif, type GifJob, writeGif } from '.'

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
  colours: { colours: 64, dithering: 'none', transparent: false },
  draw: async (n) => grey(n),
  mostKept: 0,
  progress: () => {},
  ...more,
})

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
    let [drawn, written, most] = [0, 0, 0]
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
