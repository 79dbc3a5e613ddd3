import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesOf } from '../colour'
import { pathBox } from '../path'
import { CELL_SHAPES, type LatticeSpec, LOOK_NAMES, latticeCounts, latticeFaces, VIEWS } from '.'

const specs: fc.Arbitrary<LatticeSpec> = fc
  .record({
    cell: fc.constantFrom(...CELL_SHAPES),
    view: fc.constantFrom(...VIEWS),
    size: fc.integer({ min: 20, max: 60 }),
    gap: fc.integer({ min: 0, max: 8 }),
    look: fc.constantFrom(...LOOK_NAMES),
    rise: fc.integer({ min: 0, max: 60 }),
    shrink: fc.constantFrom(0, 0.5),
    twist: fc.constantFrom(0, 30),
    tilt: fc.integer({ min: 0, max: 80 }),
    yaw: fc.integer({ min: -180, max: 180 }),
    time: fc.double({ min: 0, max: 0.999, noNaN: true }),
    seed: fc.nat(99),
  })
  .map(({ time, seed, ...spec }) => ({
    ...spec,
    width: 200,
    height: 140,
    ramp: { from: '#0b2230', to: '#f2b54a', stops: [] },
    shape: { cellsX: 2, cellsY: 2, octaves: 2, roughness: 0.4, warp: 0.2, steps: 1, seed, time },
  }))

const later = (spec: LatticeSpec, cycles: number): LatticeSpec => ({
  ...spec,
  shape: { ...spec.shape, time: spec.shape.time + cycles },
})
const middle = (path: Parameters<typeof pathBox>[0]) => {
  const box = pathBox(path) ?? { x: 0, y: 0, width: 0, height: 0 }
  return [box.x + box.width / 2, box.y + box.height / 2] as const
}

describe('a lattice', () => {
  it('comes home: a cycle of its field later it is the same', () => {
    fc.assert(
      fc.property(specs, (spec) => {
        const here = latticeFaces(spec)
        const there = latticeFaces(later(spec, 1))
        // Each face is there all the time, and in the same place of their order.
        expect(latticeFaces(later(spec, 0.37)).length).toBe(here.length)
        expect(there.length).toBe(here.length)
        for (const [i, face] of here.entries()) {
          const [x, y] = middle(face.path)
          const [u, v] = middle(there[i].path)
          expect(Math.hypot(x - u, y - v)).toBeLessThan(0.6)
        }
      }),
      { numRuns: 60 },
    )
  })
  it('tiles from above: the cells one tile further on are those of this one', () => {
    fc.assert(
      fc.property(specs, (spec) => {
        const flat: LatticeSpec = { ...spec, view: 'from above' }
        const tops = latticeFaces(flat).map(({ path, colour }) => ({ at: middle(path), colour }))
        const inside = tops.filter(({ at: [x] }) => x > -100 && x < -60)
        for (const { at, colour } of inside) {
          const twin = tops.find(({ at: [x, y] }) => Math.hypot(x - at[0] - 200, y - at[1]) < 0.01)
          // A field that is all but nothing is written as another text than one that is nothing.
          for (const [channel, byte] of twin ? bytesOf(twin.colour).entries() : [])
            expect(Math.abs(byte - bytesOf(colour)[channel])).toBeLessThanOrEqual(1)
        }
        const { across, rows } = latticeCounts(flat)
        expect([across, rows].every((count) => Number.isInteger(count) && count > 0)).toBe(true)
        if (flat.cell !== 'square') expect(rows % 2).toBe(0)
      }),
      { numRuns: 60 },
    )
  })
  it('is drawn farthest first, with the sides that are seen before the top of each cell', () => {
    const [spec] = fc.sample(specs, { numRuns: 1, seed: 4 })
    const slant: LatticeSpec = {
      ...(spec as LatticeSpec),
      view: 'slant',
      cell: 'square',
      rise: 50,
      tilt: 50,
      yaw: 30,
      twist: 0,
      look: 'clouds',
    }
    const faces = latticeFaces(slant)
    expect(faces.some(({ top }) => !top)).toBe(true)
    expect(faces.at(-1)?.top).toBe(true)
    const tops = faces.filter(({ top }) => top).length
    // Two sides of a square are turned to the eye.
    expect(faces.length).toBeLessThanOrEqual(3 * tops)
    expect(faces.length).toBeGreaterThan(2 * tops)
  })
  it('covers its box from every side, so that nothing lies behind it', () => {
    for (const view of VIEWS)
      for (const yaw of [0, 30, 137]) {
        const [spec] = fc.sample(specs, { numRuns: 1, seed: 9 })
        const faces = latticeFaces({
          ...(spec as LatticeSpec),
          view,
          yaw,
          tilt: 45,
          rise: 20,
          cell: 'square',
          shrink: 0,
          look: 'clouds',
        })
        const boxes = faces.map(({ path }) => pathBox(path))
        for (const [x, y] of [
          [-80, -55],
          [80, -55],
          [80, 55],
          [-80, 55],
        ] as const)
          expect(
            boxes.some(
              (box) => box && Math.abs(box.x + box.width / 2 - x) < 60 && Math.abs(box.y + box.height / 2 - y) < 60,
            ),
            `${view} ${yaw} ${x} ${y}`,
          ).toBe(true)
      }
  })
})
