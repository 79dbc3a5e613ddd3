import { describe, expect, it } from 'vitest'
import { seeded } from '../random'
import { BANDING_SAID, bandingOf, ColourCount, type Dithering, type Palette, type Picture, paletteMapper } from '.'

/** A picture by a function of place, 0 … 255 a channel. */
function pictureOf(width: number, height: number, at: (x: number, y: number) => readonly number[]): Picture {
  const data = new Uint8ClampedArray(4 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([...at(x / width, y / height), 255], 4 * (y * width + x))
  return { width, height, data }
}
const ramp = (from: number, to: number) =>
  pictureOf(320, 60, (x) => [1, 1.2, 1.4].map((k) => k * (from + (to - from) * x)))
const noisy = pictureOf(200, 100, (x, y) => [80 + 60 * seeded(1, 999 * x, 999 * y), 90, 100])

/** The picture in a palette of the given number of colours. */
function inPalette(picture: Picture, colours: number, dithering: Dithering): Picture {
  const count = new ColourCount()
  count.add(picture, false)
  const palette: Palette = [[0, 0, 0], ...count.palette(colours)]
  const indices = paletteMapper(palette, dithering, false)(picture)
  const data = new Uint8ClampedArray(picture.data.length)
  for (const [i, index] of indices.entries()) data.set([...(palette[index] as number[]), 255], 4 * i)
  return { ...picture, data }
}

describe('banding', () => {
  it('is found in a dark gradient of 8 bits, which has few steps, and not in one across the whole range', () => {
    const dark = pictureOf(320, 60, (x) => [8 + 16 * x, 8 + 16 * x, 8 + 16 * x])
    expect(bandingOf(dark, dark).share).toBeGreaterThan(0.5)
    const whole = ramp(0, 180)
    expect(bandingOf(whole, whole).share).toBeLessThan(BANDING_SAID)
  })
  it('is found where a palette has too few colours, and gone with dither that stands still', () => {
    const sky = ramp(60, 170)
    const plain = bandingOf(inPalette(sky, 12, 'none'), sky)
    expect(plain.share).toBeGreaterThan(0.5)
    expect(plain.step).toBeGreaterThan(0.01)
    expect(bandingOf(inPalette(sky, 12, 'ordered'), sky).share).toBeLessThan(BANDING_SAID)
    expect(bandingOf(inPalette(sky, 256, 'none'), sky).share).toBeLessThan(BANDING_SAID)
  })
  it('is no word for edges, for even areas, nor for noise', () => {
    const stripes = pictureOf(200, 50, (x) => (Math.floor(x * 10) % 2 ? [40, 60, 80] : [200, 180, 90]))
    const even = pictureOf(100, 50, () => [20, 30, 40])
    for (const picture of [stripes, even, noisy]) expect(bandingOf(picture, picture).share).toBe(0)
    const alike = pictureOf(200, 50, (x) => (Math.floor(x * 10) % 2 ? [40, 60, 80] : [44, 66, 88]))
    expect(bandingOf(alike, alike).share).toBe(0)
  })
  it('refuses pictures of two sizes', () => expect(() => bandingOf(noisy, ramp(0, 9))).toThrow(RangeError))
})
