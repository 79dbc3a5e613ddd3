import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import type { Picture } from '@/core/image'
import { pngInNode } from './png-node'

const pictures = fc
  .record({
    width: fc.integer({ min: 1, max: 40 }),
    height: fc.integer({ min: 1, max: 90 }),
    opaque: fc.boolean(),
    seed: fc.nat(99),
  })
  .map(({ width, height, opaque, seed }): Picture => {
    const data = new Uint8ClampedArray(width * height * 4)
    for (let i = 0; i < data.length; i++) data[i] = opaque && i % 4 === 3 ? 255 : (i * (seed + 3)) % 251
    return { width, height, data }
  })

describe('a picture as a PNG file', () => {
  it('has the same pixels again, whichever part, with alpha or without', async () => {
    await fc.assert(
      fc.asyncProperty(pictures, fc.double({ min: 0, max: 0.9, noNaN: true }), async (picture, share) => {
        const x = Math.floor(picture.width * share)
        const y = Math.floor(picture.height * share)
        const part = { x, y, width: picture.width - x, height: picture.height - y }
        const file = await pngInNode(picture, { part })
        const { data } = await sharp(file).ensureAlpha().raw().toBuffer({ resolveWithObject: true })
        const meant = []
        for (let row = y; row < picture.height; row++)
          meant.push(...picture.data.subarray(4 * (row * picture.width + x), 4 * (row + 1) * picture.width))
        expect([...data]).toEqual(meant)
      }),
      { numRuns: 40 },
    )
  })

  it('has no alpha where all of it is opaque, or is said to be', async () => {
    const grey = (alpha: number) => ({
      width: 4,
      height: 4,
      data: new Uint8ClampedArray(64).fill(90).map((v, i) => (i % 4 === 3 ? alpha : v)),
    })
    const channels = async (png: Uint8Array) => (await sharp(png).metadata()).channels
    expect(await channels(await pngInNode(grey(255)))).toBe(3)
    expect(await channels(await pngInNode(grey(128)))).toBe(4)
    expect(await channels(await pngInNode(grey(255), { opaque: false }))).toBe(4)
  })
})
