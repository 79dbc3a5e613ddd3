import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { greatestDifference, type Picture } from '../image'
import { seeded } from '../random'
import {
  type Bend,
  balanced,
  blurred,
  byMap,
  type Curve,
  channelOfCurve,
  cloudy,
  curveAt,
  displaced,
  glowing,
  grained,
  heatHaze,
  hueRange,
  levelsTable,
  mixCurves,
  mixed,
  sharpened,
  swirl,
  throughChannels,
  waves,
} from '.'

/** A picture of random colours. */
function pictureOf(width: number, height: number, seed: number, opaque = false): Picture {
  const data = Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) =>
    opaque && i % 4 === 3 ? 255 : 256 * seeded(seed, i),
  )
  return { width, height, data }
}

/** A picture moved on over its edges by whole pixels. */
function rolled({ width, height, data }: Picture, dx: number, dy: number): Picture {
  const out = new Uint8ClampedArray(data.length)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const to = 4 * (((y + dy) % height) * width + ((x + dx) % width))
      out.set(data.subarray(4 * (y * width + x), 4 * (y * width + x) + 4), to)
    }
  return { width, height, data: out }
}

/** A picture with its last row and column again. */
function tiledTo({ width, height, data }: Picture, w: number, h: number): Picture {
  const out = new Uint8ClampedArray(4 * w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const from = 4 * (Math.min(height - 1, y) * width + Math.min(width - 1, x))
      out.set(data.subarray(from, from + 4), 4 * (y * w + x))
    }
  return { width: w, height: h, data: out }
}

const size = fc.integer({ min: 1, max: 24 })
const anyPicture = fc
  .tuple(size, size, fc.nat(), fc.boolean())
  .map(([w, h, seed, opaque]) => pictureOf(w, h, seed, opaque))
const bend = (more: Partial<Bend> = {}): Bend => ({
  amount: 5,
  size: 7,
  angle: 0.6,
  time: 0.3,
  seed: 4,
  centre: { x: 8, y: 8 },
  ...more,
})

describe('effects that change each colour', () => {
  it('leave a picture as it is, to the bit, with the values that they begin with', () => {
    fc.assert(
      fc.property(anyPicture, (picture) => {
        const whole = { black: 0, white: 1, gamma: 1, toBlack: 0, toWhite: 1 }
        expect(levelsTable(picture, whole).data).toEqual(picture.data)
        expect(balanced(picture, 0, 0).data).toEqual(picture.data)
        const range = { hue: 0, width: 360, softness: 0, turn: 0, saturation: 1, lightness: 0 }
        expect(greatestDifference(hueRange(picture, range), picture)).toBeLessThanOrEqual(1)
      }),
    )
  })
  it('spread levels so that black and white are reached, and turn them round where they are exchanged', () => {
    const grey: Picture = {
      width: 3,
      height: 1,
      data: Uint8ClampedArray.of(51, 51, 51, 255, 128, 128, 128, 255, 204, 204, 204, 255),
    }
    const at = { black: 0.2, white: 0.8, gamma: 1, toBlack: 0, toWhite: 1 }
    const red = ({ data }: Picture) => [data[0], data[4], data[8]]
    expect(red(levelsTable(grey, at))).toEqual([0, 128, 255])
    expect(red(levelsTable(grey, { ...at, toBlack: 1, toWhite: 0 }))).toEqual([255, 127, 0])
    expect(red(levelsTable(grey, { ...at, black: 0.8, white: 0.2 }))).toEqual([255, 127, 0])
  })
  it('turn hues round the whole ring and come back, and change only the range that is meant', () => {
    fc.assert(
      fc.property(anyPicture, fc.integer({ min: -3, max: 3 }), (picture, turns) => {
        const range = { hue: 0, width: 360, softness: 0, turn: 360 * turns, saturation: 1, lightness: 0 }
        expect(greatestDifference(hueRange(picture, range), picture)).toBeLessThanOrEqual(1)
      }),
    )
    const two: Picture = { width: 2, height: 1, data: Uint8ClampedArray.of(200, 40, 40, 255, 40, 40, 200, 255) }
    const reds = { hue: 0, width: 60, softness: 20, turn: 120, saturation: 1, lightness: 0 }
    expect([...hueRange(two, reds).data]).toEqual([40, 200, 40, 255, 40, 40, 200, 255])
  })
  it('keep the brightness of grey while it is warmed', () => {
    const grey: Picture = { width: 1, height: 1, data: Uint8ClampedArray.of(120, 120, 120, 255) }
    const [r, g, b] = balanced(grey, 0.8, 0).data as unknown as [number, number, number]
    expect(r).toBeGreaterThan(b)
    const light = (value: number) => (value / 255) ** 2.2
    expect(0.2126 * light(r) + 0.7152 * light(g) + 0.0722 * light(b)).toBeCloseTo(light(120), 2)
  })
})

const anyCurve: fc.Arbitrary<Curve> = fc
  .uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 2, maxLength: 8 })
  .chain((places) =>
    fc
      .array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: places.length, maxLength: places.length })
      .map((heights) => [...places].sort((a, b) => a - b).map((x, i) => [x / 40, heights[i]] as const)),
  )

describe('a curve', () => {
  it('goes through its points and never over or under two that it lies between', () => {
    fc.assert(
      fc.property(anyCurve, fc.double({ min: 0, max: 1, noNaN: true }), (curve, share) => {
        for (const [x, y] of curve) expect(curveAt(curve, x)).toBeCloseTo(y, 9)
        for (let i = 1; i < curve.length; i++) {
          const [[x0, y0], [x1, y1]] = [curve[i - 1], curve[i]] as unknown as [[number, number], [number, number]]
          const y = curveAt(curve, x0 + share * (x1 - x0))
          expect(y).toBeGreaterThanOrEqual(Math.min(y0, y1) - 1e-9)
          expect(y).toBeLessThanOrEqual(Math.max(y0, y1) + 1e-9)
        }
      }),
    )
  })
  it('that is straight changes nothing, and half of the way lies half of the way', () => {
    fc.assert(
      fc.property(anyPicture, anyCurve, (picture, curve) => {
        const straight = channelOfCurve([
          [0, 0],
          [1, 1],
        ])
        expect(throughChannels(picture, straight, straight, straight).data).toEqual(picture.data)
        const half = mixCurves(
          curve,
          [
            [0, 0],
            [1, 1],
          ] as Curve,
          0.5,
        )
        for (const [x] of curve) expect(curveAt(half, x)).toBeCloseTo((curveAt(curve, x) + x) / 2, 9)
      }),
    )
  })
})

describe('effects that look round', () => {
  const round: readonly [string, (picture: Picture) => Picture][] = [
    ['blur', (picture) => blurred(picture, 2.3, 'wrap')],
    ['sharpen', (picture) => sharpened(picture, 0.8, 1.4, 'wrap')],
    ['glow', (picture) => glowing(picture, 1, 2, 0.4, 'wrap')],
  ]
  it.each(round)('of a tile make a tile: %s of what is moved on is moved on', (_, effect) => {
    fc.assert(
      fc.property(anyPicture, fc.nat(30), fc.nat(30), (picture, dx, dy) => {
        const a = effect(rolled(picture, dx, dy))
        const b = rolled(effect(picture), dx, dy)
        expect(greatestDifference(a, b)).toBeLessThanOrEqual(1)
      }),
    )
  })
  it('blur as the Gaussian of that deviation does, and keep what is even', () => {
    const n = 101
    const sigma = 5
    const data = new Uint8ClampedArray(4 * n)
    for (let i = 0; i < n; i++) data.set(i < 50 ? [0, 0, 0, 255] : [255, 255, 255, 255], 4 * i)
    const soft = blurred({ width: n, height: 1, data }, sigma, 'stretch')
    // An edge becomes the normal distribution.
    const erf = (x: number) =>
      Math.sign(x) * Math.sqrt(1 - Math.exp((-x * x * (4 / Math.PI + 0.147 * x * x)) / (1 + 0.147 * x * x)))
    for (let i = 30; i < 70; i++) {
      const expected = 127.5 * (1 + erf((i - 49.5) / (sigma * Math.SQRT2)))
      expect(Math.abs(soft.data[4 * i] - expected)).toBeLessThan(4)
    }
    const even: Picture = { width: 5, height: 4, data: new Uint8ClampedArray(80).fill(90) }
    expect(greatestDifference(blurred(even, 3, 'wrap'), even)).toBeLessThanOrEqual(1)
  })
  it('broadly as finely: what is worked out coarser is off by a step of 8 bits at the most', () => {
    fc.assert(
      fc.property(fc.nat(), fc.double({ min: 6.5, max: 12, noNaN: true }), (seed, sigma) => {
        const picture = pictureOf(64, 48, seed, true)
        // One pixel more or less, and it cannot be worked out coarser.
        const fine = blurred(tiledTo(picture, 65, 49), sigma, 'stretch')
        const broad = blurred(picture, sigma, 'stretch')
        for (let y = 20; y < 28; y++)
          for (let x = 28; x < 36; x++)
            for (let c = 0; c < 3; c++)
              expect(Math.abs(fine.data[4 * (y * 65 + x) + c] - broad.data[4 * (y * 64 + x) + c])).toBeLessThanOrEqual(
                2,
              )
      }),
      { numRuns: 12 },
    )
  })
  it('do not let the colour of clear pixels bleed in', () => {
    const data = Uint8ClampedArray.of(255, 0, 0, 0, 0, 0, 255, 255, 255, 0, 0, 0)
    const soft = blurred({ width: 3, height: 1, data }, 1, 'stretch')
    for (let i = 0; i < 3; i++) expect([soft.data[4 * i], soft.data[4 * i + 2]]).toEqual([0, 255])
  })
})

describe('displacement', () => {
  const fields = [
    ['waves', (w: number, h: number, b: Bend) => waves(w, h, b)],
    ['heat haze', heatHaze],
    ['glass', cloudy],
    ['swirl', (_: number, __: number, b: Bend) => swirl(b)],
  ] as const
  /** How far the pixel at a place is moved. */
  const at = (shift: ReturnType<typeof heatHaze>, w: number, x: number, y: number) => {
    const across = new Float32Array(w)
    const down = new Float32Array(w)
    shift(y, across, down)
    return [across[x], down[x]] as const
  }
  const near = (a: readonly [number, number], b: readonly [number, number]) =>
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(1e-3)
  it.each(fields)('comes home: %s one cycle later is the same', (_, field) => {
    fc.assert(
      fc.property(size, size, fc.double({ min: 0, max: 1, noNaN: true }), fc.nat(40), (w, h, time, place) => {
        const a = field(w, h, bend({ time }))
        const b = field(w, h, bend({ time: time + 1 }))
        near(at(a, w, place % w, place % h), at(b, w, place % w, place % h))
      }),
    )
  })
  it.each(fields.slice(0, 3))('tiles: %s a whole tile further is the same', (_, field) => {
    fc.assert(
      fc.property(size, size, fc.nat(40), fc.nat(40), (w, h, x, y) => {
        const shift = field(w, h, bend())
        near(at(shift, w, x % w, y % h), at(shift, w, x % w, (y % h) + h))
      }),
    )
  })
  it('by whole pixels is a picture that is moved on, and by nothing the same to the bit', () => {
    fc.assert(
      fc.property(anyPicture, fc.nat(30), fc.nat(30), (picture, dx, dy) => {
        const moved = displaced(
          picture,
          (_, across, down) => {
            across.fill(-dx)
            down.fill(-dy)
          },
          'wrap',
        )
        // A transparent pixel has no colour.
        expect(greatestDifference(moved, rolled(picture, dx, dy))).toBeLessThanOrEqual(1)
      }),
    )
  })
  it('by a map moves as its brightness says, and not at all where it is clear', () => {
    const map: Picture = { width: 2, height: 1, data: Uint8ClampedArray.of(255, 255, 255, 255, 255, 255, 255, 0) }
    const shift = byMap(map, bend({ amount: 10, angle: 0 }))
    expect(at(shift, 2, 0, 0)).toEqual([5, 0])
    expect(at(shift, 2, 1, 0)).toEqual([0, 0])
  })
})

describe('grain and mixing', () => {
  it('is as strong as it says in the middle tones, gone in black and white, and the same for the same step', () => {
    const grey: Picture = { width: 200, height: 150, data: new Uint8ClampedArray(4 * 30000).fill(128) }
    const grain = { amount: 0.05, size: 2, coloured: false, seed: 3, step: 4 }
    const { data } = grained(grey, grain)
    let sum = 0
    let square = 0
    for (let i = 0; i < data.length; i += 4) {
      const off = data[i] - 128
      sum += off
      square += off * off
    }
    const count = data.length / 4
    expect(Math.abs(sum / count)).toBeLessThan(0.6)
    expect(Math.sqrt(square / count) / 255).toBeCloseTo(0.05, 2)
    expect(grained(grey, grain).data).toEqual(data)
    expect(grained(grey, { ...grain, step: 5 }).data).not.toEqual(data)
    const black: Picture = { width: 2, height: 1, data: Uint8ClampedArray.of(0, 0, 0, 255, 255, 255, 255, 255) }
    expect(grained(black, grain).data).toEqual(black.data)
  })
  it('mixes by strength and by the alpha of a mask', () => {
    fc.assert(
      fc.property(anyPicture, (picture) => {
        const other = rolled(picture, 1, 1)
        expect(greatestDifference(mixed(picture, other, 0, null), picture)).toBe(0)
        expect(mixed(picture, other, 1, null)).toBe(other)
        const clear = { ...picture, data: new Uint8ClampedArray(picture.data.length) }
        expect(mixed(picture, other, 1, clear).data).toEqual(picture.data)
      }),
    )
  })
})
