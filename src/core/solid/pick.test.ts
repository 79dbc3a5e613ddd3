import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Camera, onPlane, type Part, PLACED_AS_IT_IS, projected, rayThrough, touched, translation, unit } from '.'

const coordinate = fc.double({ min: -2, max: 2, noNaN: true })
const point = fc.tuple(coordinate, coordinate, coordinate)
const camera: fc.Arbitrary<Camera> = fc
  .record({
    around: fc.double({ min: 0, max: 6.28, noNaN: true }),
    above: fc.double({ min: -1, max: 1, noNaN: true }),
    parallel: fc.boolean(),
  })
  .map(({ around, above, parallel }) => ({
    from: [9 * Math.sin(around), 9 * above, 9 * Math.cos(around)],
    at: [0, 0, 0],
    up: [0, 1, 0],
    fieldOfView: parallel ? null : 0.7,
    height: 6,
  }))

/** A square plate of two triangles across z, at the origin. */
const plate = (name: string, node: number, placement: Part['placement'], parts: readonly Part[] = []): Part => ({
  name,
  node,
  placement,
  mesh: {
    positions: Float32Array.from([-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0]),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  },
  parts,
})

describe('a place in the frame', () => {
  it('is where every point is shown that lies on its ray', () => {
    fc.assert(
      fc.property(camera, point, (seen, at) => {
        const place = projected(at, seen, 640, 480)
        fc.pre(place !== null)
        if (!place) throw new Error('it is in sight')
        const ray = rayThrough(seen, place, 640, 480)
        const facing = unit([seen.from[0] - seen.at[0], seen.from[1] - seen.at[1], seen.from[2] - seen.at[2]])
        const back = onPlane(ray, at, facing)
        for (const [i, x] of (back ?? [9, 9, 9]).entries()) expect(x).toBeCloseTo(at[i], 6)
      }),
    )
  })
})

describe('the surface of a model', () => {
  const ray = { from: [0.2, 0.3, 8], way: [0, 0, -1] } as const
  it('is met where it is nearest, wherever its parts stand in each other and have moved to', () => {
    const inner = plate('Shutter', 2, translation([0, 0, 3]))
    const parts = [plate('Case', 1, translation([0, 0, 1]), [inner])]
    expect(touched(parts, [], ray)).toEqual([0.2, 0.3, 4])
    expect(touched(parts, [{ node: 2, placement: translation([0, 0, 2]) }], ray)).toEqual([0.2, 0.3, 6])
    expect(touched(parts, [{ node: 1, placement: translation([0, 0, 1]) }], ray)).toEqual([0.2, 0.3, 5])
    // A part that has moved away uncovers the one behind it.
    expect(touched(parts, [{ node: 2, placement: translation([5, 0, 0]) }], ray)).toEqual([0.2, 0.3, 1])
  })
  it('is not met beside it, nor behind', () => {
    const parts = [plate('Case', 1, PLACED_AS_IT_IS)]
    expect(touched(parts, [], { ...ray, from: [1.1, 0, 8] })).toBeNull()
    expect(touched(parts, [], { ...ray, way: [0, 0, 1] })).toBeNull()
  })
})
