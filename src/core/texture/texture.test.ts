import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { LOOK_NAMES, noiseAt, type TextureShape, textureField, texturePicture } from '.'
import { addNoise, emptyField, type Field } from './noise'

const lattice = fc.record({
  cellsX: fc.integer({ min: 1, max: 9 }),
  cellsY: fc.integer({ min: 1, max: 9 }),
  steps: fc.integer({ min: 1, max: 6 }),
  seed: fc.nat(9999),
})
const shapes: fc.Arbitrary<TextureShape> = fc
  .record({
    octaves: fc.integer({ min: 1, max: 6 }),
    roughness: fc.double({ min: 0, max: 1, noNaN: true }),
    warp: fc.double({ min: 0, max: 3, noNaN: true }),
    time: fc.double({ min: 0, max: 0.999, noNaN: true }),
  })
  .chain((shape) => lattice.map((own) => ({ ...shape, ...own })))
const looks = fc.constantFrom(...LOOK_NAMES)

/** The largest step from each pixel to the one `by` further on, in a direction, over the whole and at the edge alone. */
function steps({ width, height, data }: Field) {
  let inside = 0
  let edge = 0
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const here = data[y * width + x]
      const right = Math.abs(here - data[y * width + ((x + 1) % width)])
      const below = Math.abs(here - data[((y + 1) % height) * width + x])
      if (x + 1 < width) inside = Math.max(inside, right)
      else edge = Math.max(edge, right)
      if (y + 1 < height) inside = Math.max(inside, below)
      else edge = Math.max(edge, below)
    }
  return { inside, edge }
}

describe('gradient noise', () => {
  it('wraps in x, y and time', () => {
    const place = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(lattice, place, place, place, (own, u, v, t) => {
        const here = noiseAt(u, v, t, own)
        for (const there of [noiseAt(u + 1, v, t, own), noiseAt(u, v - 2, t, own), noiseAt(u, v, t + 1, own)])
          expect(there).toBeCloseTo(here, 6)
      }),
    )
  })
  it('is the same over a whole tile as place by place', () => {
    fc.assert(
      fc.property(lattice, fc.double({ min: 0, max: 3, noNaN: true }), (own, t) => {
        const field = emptyField(23, 17)
        addNoise(field, t, own, 1)
        for (let y = 0; y < 17; y++)
          for (let x = 0; x < 23; x++) expect(field.data[y * 23 + x]).toBeCloseTo(noiseAt(x / 23, y / 17, t, own), 4)
      }),
      { numRuns: 40 },
    )
  })
})

describe('a texture', () => {
  it('is the same one cycle of its time later, whatever its shape', () => {
    fc.assert(
      fc.property(looks, shapes, (look, shape) => {
        const [here, later] = [0, 1].map((cycles) =>
          textureField({ look, shape: { ...shape, time: shape.time + cycles } }, 20, 14),
        )
        for (const [i, value] of (here as Field).data.entries()) expect((later as Field).data[i]).toBeCloseTo(value, 2)
      }),
      { numRuns: 150 },
    )
  })
  it.each(LOOK_NAMES.filter((look) => look !== 'grain'))(
    'of %s has no edge: no step across it is larger than those inside',
    (look) => {
      fc.assert(
        fc.property(shapes, (shape) => {
          // Fine enough that a pixel is a small part of the smallest feature.
          const own = {
            ...shape,
            octaves: Math.min(3, shape.octaves),
            warp: Math.min(1, shape.warp),
            cellsX: 1 + (shape.cellsX % 3),
            cellsY: 1 + (shape.cellsY % 3),
          }
          const { inside, edge } = steps(textureField({ look, shape: own }, 160, 120))
          expect(edge).toBeLessThanOrEqual(1.3 * inside + 1e-6)
        }),
        { numRuns: 25 },
      )
    },
  )
  it('goes through the colours of its ramp, by how strong it is', () => {
    const shape: TextureShape = {
      cellsX: 3,
      cellsY: 3,
      octaves: 3,
      roughness: 0.5,
      warp: 0.5,
      steps: 2,
      seed: 4,
      time: 0.3,
    }
    const ramp = { from: '#000000', to: '#ffffff', stops: [{ at: 0.5, colour: '#ff0000' }] }
    const picture = texturePicture({ look: 'clouds', shape, contrast: 1, ramp }, 64, 64)
    const field = textureField({ look: 'clouds', shape }, 64, 64)
    const at = (i: number) => [...picture.data.subarray(4 * i, 4 * i + 4)]
    for (const [i, value] of field.data.entries()) {
      const [r = 0, g = 0, b = 0, a] = at(i)
      expect(a).toBe(255)
      if (Math.abs(value - 0.5) < 1e-3) expect([r > 245, g < 40, b < 40]).toEqual([true, true, true])
      if (value < 0.5) expect(g).toBeLessThan(6)
    }
    const flat = texturePicture({ look: 'clouds', shape, contrast: 0, ramp }, 8, 8)
    expect(new Set(flat.data.filter((_, i) => i % 4 === 0)).size).toBe(1)
    const clear = texturePicture({ look: 'grain', shape, contrast: 1, ramp: { ...ramp, from: 'transparent' } }, 8, 8)
    expect(clear.data.some((value, i) => i % 4 === 3 && value < 255)).toBe(true)
  })
  it('is another one with another seed, and refuses a look that there is none of', () => {
    const shape: TextureShape = {
      cellsX: 3,
      cellsY: 3,
      octaves: 3,
      roughness: 0.5,
      warp: 0.5,
      steps: 2,
      seed: 4,
      time: 0.3,
    }
    for (const look of LOOK_NAMES)
      expect(textureField({ look, shape }, 16, 16).data).not.toEqual(
        textureField({ look, shape: { ...shape, seed: 5 } }, 16, 16).data,
      )
    expect(() => textureField({ look: 'marble', shape }, 8, 8)).toThrow('no look of texture called “marble”')
  })
})
