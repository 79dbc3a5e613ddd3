import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { GIFEncoder } from 'gifenc'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import { ClipError, readClaims } from '@/codecs/claims'
import type { Picture } from '@/core/image'
import { oddGif } from '../../bench/corpus/odd-gif'
import { decodeFrames } from './decode'

const visible = ({ data }: Picture) => {
  const seen = data.slice()
  // The colour of a clear pixel has no meaning.
  for (let i = 0; i < seen.length; i += 4) if (seen[i + 3] === 0) seen.fill(0, i, i + 3)
  return createHash('sha1').update(seen).digest('hex')
}
async function framesOf(bytes: Uint8Array): Promise<Picture[]> {
  const frames: Picture[] = []
  for await (const frame of decodeFrames(bytes, readClaims(bytes))) frames.push(frame)
  return frames
}

describe('frames of a GIF', () => {
  it('are those that a viewer shows: partial frames, palettes of their own, every disposal, odd delays', async () => {
    await fc.assert(
      fc.asyncProperty(fc.nat(1e6), async (seed) => {
        const { bytes, frames, delaysCs } = oddGif(seed)
        expect(readClaims(bytes).delaysMs).toEqual(delaysCs.map((cs) => 10 * cs))
        const read = await framesOf(bytes)
        expect(read).toHaveLength(frames.length)
        expect(read.map(visible)).toEqual(frames.map(visible))
      }),
      { numRuns: 25 },
    )
  })
  it.each(['interlaced.gif', 'local.gif', 'lamp.gif'])('are what another decoder sees: %s', async (name) => {
    const file = readFileSync(new URL(`../../e2e/fixtures/${name}`, import.meta.url))
    const frames = await framesOf(new Uint8Array(file))
    expect(frames).toHaveLength(24)
    for (const [page, frame] of frames.entries()) {
      const other = await sharp(file, { page }).ensureAlpha().raw().toBuffer()
      expect(visible(frame), `frame ${page}`).toBe(visible({ ...frame, data: new Uint8ClampedArray(other) }))
    }
  })
  it('are as before where other bytes follow the end of the file', async () => {
    const { bytes } = oddGif(7)
    const trailing = new Uint8Array([...bytes, ...new TextEncoder().encode('left behind by a server')])
    expect((await framesOf(trailing)).map(visible)).toEqual((await framesOf(bytes)).map(visible))
  })
  it('are read one by one where there are two thousand of them, and where there is one of a single pixel', async () => {
    const writer = GIFEncoder()
    const palette = [
      [0, 0, 0],
      [250, 180, 70],
    ]
    for (let n = 0; n < 2000; n++)
      writer.writeFrame(
        Uint8Array.from({ length: 64 }, (_, i) => Number(i === n % 64)),
        8,
        8,
        { palette, delay: 40 },
      )
    writer.finish()
    const bytes = new Uint8Array(writer.bytes())
    const frames = await framesOf(bytes)
    expect(frames).toHaveLength(2000)
    for (const n of [0, 777, 1999]) {
      const at = (frames[n] as Picture).data.findIndex((value, i) => i % 4 === 0 && value === 250)
      expect(at / 4).toBe(n % 64)
    }
    const one = oddGif(3, { width: 1, height: 1, count: 1 })
    expect((await framesOf(one.bytes)).map(visible)).toEqual(one.frames.map(visible))
  })
  it('of a small file that claims 30,000 × 30,000 px are refused before anything is decoded', () => {
    const { bytes } = oddGif(5)
    new DataView(bytes.buffer).setUint16(6, 30_000, true)
    new DataView(bytes.buffer).setUint16(8, 30_000, true)
    const before = process.memoryUsage().rss
    expect(() => readClaims(bytes)).toThrow(ClipError)
    expect(process.memoryUsage().rss - before).toBeLessThan(64 * 1024 * 1024)
  })
  it('that are damaged anywhere are read or refused in words, and nothing else happens', async () => {
    const { bytes } = oddGif(11)
    await fc.assert(
      fc.asyncProperty(fc.nat(bytes.length - 1), fc.nat(255), fc.boolean(), async (at, value, cut) => {
        const damaged = cut ? bytes.slice(0, at) : bytes.slice()
        if (!cut) damaged[at] = value
        const result = await Promise.resolve()
          .then(() => framesOf(damaged))
          .catch((error: Error) => error)
        if (result instanceof Error) expect(result).toBeInstanceOf(ClipError)
        else expect(result.length).toBeGreaterThan(0)
      }),
      { numRuns: 60 },
    )
  })
})
