import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { applyMend, flowBetween, mixFrame, piecesOf, plainPlan } from '..'

const WIDTH = 96
const HEIGHT = 64

/** Soft waves and a buoy, moved by (dx, dy) px. */
function sea(dx: number, dy: number): Picture {
  const data = new Uint8ClampedArray(4 * WIDTH * HEIGHT)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const px = x - dx
      const py = y - dy
      const wave = 40 * Math.sin(px / 7) + 30 * Math.cos(py / 6 + px / 15)
      const buoy = 110 * Math.exp(-((px - 44) ** 2 + (py - 30) ** 2) / 60)
      data.set([90 + wave + buoy, 110 + wave, 120 + wave / 2, 255], 4 * (y * WIDTH + x))
    }
  return { width: WIDTH, height: HEIGHT, data }
}
/** The mean difference of two pictures but for their borders, of 255. */
function apart(a: Picture, b: Picture): number {
  let sum = 0
  let count = 0
  for (let y = 10; y < HEIGHT - 10; y++)
    for (let x = 10; x < WIDTH - 10; x++)
      for (let c = 0; c < 3; c++) {
        const i = 4 * (y * WIDTH + x) + c
        sum += Math.abs(a.data[i] - b.data[i])
        count++
      }
  return sum / count
}
const shift = fc.record({ dx: fc.integer({ min: -9, max: 9 }), dy: fc.integer({ min: -6, max: 6 }) })
const morph = (from: Picture, to: Picture, w: number, how = true): Picture =>
  mixFrame(
    {
      parts: [
        { frame: 0, weight: 1 - w, gain: [1, 1, 1] },
        { frame: 1, weight: w, gain: [1, 1, 1] },
      ],
      keepVariance: false,
      morph: how,
    },
    (n) => (n === 0 ? from : to),
  )

/** Sharp stripes, moved by (dx, dy) px: they look the same after every period. */
function stripes(period: number, dx: number): Picture {
  const width = 320
  const height = 180
  const data = new Uint8ClampedArray(4 * width * height).fill(255)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data.fill(
        120 + 70 * Math.tanh(4 * Math.sin((2 * Math.PI * (x - dx)) / period)),
        4 * (y * width + x),
        4 * (y * width + x) + 3,
      )
  return { width, height, data }
}

describe('the flow between two pictures', () => {
  it('of stripes goes to the nearest one, everywhere alike', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 24, max: 60, noNaN: true }),
        fc.double({ min: -0.25, max: 0.25, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (period, share, w) => {
          const dx = share * period
          const { width, height, u } = flowBetween(stripes(period, 0), stripes(period, dx), w)
          const scale = 320 / width
          let near = 0
          const own = u.slice(width * (height >> 1), width * ((height >> 1) + 1))
          for (const x of own) if (Math.abs(x * scale - dx) < 2) near++
          expect(near / width).toBeGreaterThan(0.8)
        },
      ),
      { numRuns: 15 },
    )
  })
  it('is by how much one has moved against the other', () => {
    fc.assert(
      fc.property(shift, fc.double({ min: 0.1, max: 0.9, noNaN: true }), ({ dx, dy }, w) => {
        const { u, v } = flowBetween(sea(0, 0), sea(dx, dy), w)
        let x = 0
        let y = 0
        let count = 0
        for (let py = 16; py < HEIGHT - 16; py++)
          for (let px = 16; px < WIDTH - 16; px++, count++) {
            x += u[py * WIDTH + px]
            y += v[py * WIDTH + px]
          }
        expect(Math.hypot(x / count - dx, y / count - dy)).toBeLessThan(0.6)
      }),
      { numRuns: 30 },
    )
  })
})

describe('a morph', () => {
  it('is the picture that lies on the way, where a mix shows both', () => {
    fc.assert(
      fc.property(shift, fc.double({ min: 0.2, max: 0.8, noNaN: true }), ({ dx, dy }, w) => {
        const from = sea(0, 0)
        const to = sea(dx, dy)
        const between = sea(w * dx, w * dy)
        expect(apart(morph(from, to, w), between)).toBeLessThan(3)
        if (Math.hypot(dx, dy) > 5)
          expect(apart(morph(from, to, w), between)).toBeLessThan(apart(morph(from, to, w, false), between) / 2)
      }),
      { numRuns: 30 },
    )
  })
  it('of a picture with itself is that picture', () => {
    const same = morph(sea(3, 1), sea(3, 1), 0.5)
    expect(apart(same, sea(3, 1))).toBeLessThan(1)
  })
  it('joins the ends of a clip frame by frame, as an overlap does', () => {
    const clip = { delaysMs: Array.from({ length: 12 }, () => 40), playsForever: true, means: [] }
    const plan = applyMend(plainPlan(clip), { kind: 'overlap', frames: 4, keepVariance: false, morph: true }, clip)
    expect(plan.frames.flatMap(piecesOf).map(({ morph: is = false }) => is)).toEqual(
      [0, 0, 0, 0, 1, 1, 1, 1].map(Boolean),
    )
  })
})
