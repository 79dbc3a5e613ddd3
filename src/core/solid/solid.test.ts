import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import {
  boundsOf,
  type Looks,
  lengthOf,
  type Mesh,
  massCentre,
  meshFold,
  middleOf,
  offCentre,
  type Part,
  PLACED_AS_IT_IS,
  type Surface,
  squareToTriangle,
  subtract,
  sweptCylinder,
  turned,
  unit,
  type Vector,
  wholeMesh,
} from '.'

const UP: Vector = [0, 1, 0]
const ORIGIN: Vector = [0, 0, 0]
const double = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const vector = fc.tuple(double(-5, 5), double(-5, 5), double(-5, 5))
const direction = vector.filter((v) => lengthOf(v) > 0.1).map(unit)

/** Meshes of several, put together. */
function joined(...meshes: readonly Mesh[]): Mesh {
  const positions: number[] = []
  const indices: number[] = []
  for (const mesh of meshes) {
    for (const i of mesh.indices) indices.push(i + positions.length / 3)
    positions.push(...mesh.positions)
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const moved = ({ positions, indices }: Mesh, by: Vector): Mesh => ({
  positions: positions.map((value, i) => value + by[i % 3]),
  indices,
})
const spun = ({ positions, indices }: Mesh, angle: number): Mesh => {
  const out = Float32Array.from(positions)
  for (let i = 0; i < out.length; i += 3) out.set(turned([out[i], out[i + 1], out[i + 2]], ORIGIN, UP, angle), i)
  return { positions: out, indices }
}

/** A box about the origin. */
function boxOf(x: number, y: number, z: number): Mesh {
  const positions = [-1, 1].flatMap((i) =>
    [-1, 1].flatMap((j) => [-1, 1].flatMap((k) => [(i * x) / 2, (j * y) / 2, (k * z) / 2])),
  )
  const indices = [
    [0, 1, 3, 0, 3, 2],
    [4, 6, 7, 4, 7, 5],
    [0, 4, 5, 0, 5, 1],
    [2, 3, 7, 2, 7, 6],
    [0, 2, 6, 0, 6, 4],
    [1, 5, 7, 1, 7, 3],
  ].flat()
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
/** A drum about y with the given number of sides. */
function drumOf(radius: number, height: number, sides: number): Mesh {
  const positions = [0, height / 2, 0, 0, -height / 2, 0]
  const indices: number[] = []
  for (let i = 0; i < sides; i++) {
    const x = radius * Math.cos((2 * Math.PI * i) / sides)
    const z = radius * Math.sin((2 * Math.PI * i) / sides)
    positions.push(x, height / 2, z, x, -height / 2, z)
    const a = 2 + 2 * i
    const b = 2 + 2 * ((i + 1) % sides)
    indices.push(0, b, a, 1, a + 1, b + 1, a, b, b + 1, a, b + 1, a + 1)
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
/** A capstan: a drum with bars, some of which may be left out. */
const capstan = (bars: number, left: readonly number[] = []): Mesh =>
  joined(
    drumOf(1, 3, 96),
    ...Array.from({ length: bars }, (_, i) => i)
      .filter((i) => !left.includes(i))
      .map((i) => spun(moved(boxOf(2, 0.3, 0.3), [1.8, 0.8, 0]), (2 * Math.PI * i) / bars)),
  )

describe('the measures of a mesh', () => {
  it('have their centre of mass in the middle of a box wherever it stands, and where a cone has it', () => {
    fc.assert(
      fc.property(vector, double(0.2, 4), double(0.2, 4), (place, x, y) => {
        const centre = massCentre(moved(boxOf(x, y, 1), place)) as Vector
        expect(lengthOf(subtract(centre, place))).toBeLessThan(1e-4)
      }),
    )
    const cone = drumOf(1, 2, 64)
    const top = cone.positions.map((value, i) =>
      i % 3 === 1 || cone.positions[3 * Math.floor(i / 3) + 1] !== 1 ? value : 0,
    )
    const centre = massCentre({ ...cone, positions: top }) as Vector
    expect(centre[1]).toBeCloseTo(-0.5, 2)
  })
  it('of nothing are nothing', () => {
    const empty: Mesh = { positions: new Float32Array(0), indices: new Uint32Array(0) }
    expect([boundsOf(empty), massCentre(empty), meshFold(empty, ORIGIN, UP)]).toEqual([null, null, 1])
  })
  it('are off their axis by so much of their size', () => {
    expect(offCentre(boxOf(1, 1, 1), ORIGIN, UP)).toBeCloseTo(0, 9)
    const away = moved(boxOf(1, 1, 1), [2, 5, 0])
    expect(offCentre(away, ORIGIN, UP)).toBeCloseTo(2 / Math.sqrt(3), 5)
    expect(offCentre(away, middleOf(boundsOf(away) as never), UP)).toBeCloseTo(0, 5)
  })
})

const anyMesh = fc.array(vector, { minLength: 3, maxLength: 30 }).map(
  (points): Mesh => ({
    positions: Float32Array.from(points.flat()),
    indices: Uint32Array.from({ length: 3 * Math.floor(points.length / 3) }, (_, i) => i),
  }),
)
const corners = ({ positions }: Mesh): Vector[] =>
  Array.from({ length: positions.length / 3 }, (_, i) => [...positions.subarray(3 * i, 3 * i + 3)] as unknown as Vector)

describe('a turn', () => {
  it('keeps every vertex within the cylinder that it sweeps, at any angle', () => {
    fc.assert(
      fc.property(anyMesh, vector, direction, double(0, 7), (mesh, pivot, axis, angle) => {
        const { radius, low, high } = sweptCylinder(mesh, pivot, axis)
        for (const corner of corners(mesh)) {
          const from = subtract(turned(corner, pivot, axis, angle), pivot)
          const along = from[0] * axis[0] + from[1] * axis[1] + from[2] * axis[2]
          expect(along).toBeGreaterThanOrEqual(low - 1e-4)
          expect(along).toBeLessThanOrEqual(high + 1e-4)
          expect(Math.sqrt(Math.max(0, lengthOf(from) ** 2 - along ** 2))).toBeLessThanOrEqual(radius + 1e-4)
        }
      }),
    )
  })
})

describe('the fold of a model', () => {
  it.each([2, 3, 5, 6, 8, 12])(
    'of a capstan of %i bars is that many, wherever it stands and however it is turned',
    (bars) => {
      const place: Vector = [3, -1, 7]
      expect(meshFold(moved(spun(capstan(bars), 0.7), place), place, UP)).toBe(bars)
    },
  )
  it('is none where a bar is missing, two where two opposite ones are, and without end where it is round', () => {
    expect(meshFold(capstan(6, [2]), ORIGIN, UP)).toBe(1)
    expect(meshFold(capstan(6, [1, 4]), ORIGIN, UP)).toBe(2)
    expect(meshFold(drumOf(1, 2, 200), ORIGIN, UP)).toBe(Number.POSITIVE_INFINITY)
    expect(meshFold(boxOf(1, 2, 1), ORIGIN, UP)).toBe(4)
    expect(meshFold(moved(boxOf(1, 2, 1), [0.2, 0, 0]), ORIGIN, UP)).toBe(1)
  })
  it('rests on distances from triangles that agree with a search over them', () => {
    fc.assert(
      fc.property(vector, vector, vector, vector, (p, a, b, c) => {
        let best = Infinity
        for (let u = 0; u <= 40; u++)
          for (let v = 0; v + u <= 40; v++) {
            const w = 40 - u - v
            const q = a.map((x, i) => (u * x + v * b[i] + w * c[i]) / 40) as unknown as Vector
            best = Math.min(best, lengthOf(subtract(p, q)))
          }
        const found = Math.sqrt(squareToTriangle(p, [a, b, c]))
        expect(found).toBeLessThanOrEqual(best + 1e-6)
        expect(best - found).toBeLessThan(0.4)
      }),
      // One that is a line, and one that is a point.
      {
        numRuns: 60,
        examples: [
          [
            [0, 0, -5e-324],
            [0, 0, 0],
            [0, 0, 0],
            [0, 0, -0.5],
          ],
          [[0, 0, 5e-324], ORIGIN, ORIGIN, [0, 0, 0.5000000000000001]],
          [UP, ORIGIN, ORIGIN, ORIGIN],
        ],
      },
    )
  })
})

describe('the fold of what does not look alike all round', () => {
  const box = boxOf(2, 2, 2)
  const triangles = box.indices.length / 3
  const surface = (red: number, green: number, blue: number, texture: Surface['texture'] = null): Surface => ({
    factors: [red, green, blue, 1, 0, 1, 0, 0, 0],
    texture,
  })
  const looking = (of: (t: number) => number, surfaces: readonly Surface[], more: Partial<Looks> = {}): Mesh => ({
    ...box,
    looks: {
      surfaces,
      ofTriangle: Uint32Array.from({ length: triangles }, (_, t) => of(t)),
      coordinates: null,
      colours: null,
      ...more,
    },
  })
  it('counts materials: a white box one side of which is red has none', () => {
    expect(meshFold(box, ORIGIN, UP)).toBe(4)
    expect(
      meshFold(
        looking(() => 0, [surface(1, 1, 1)]),
        ORIGIN,
        UP,
      ),
    ).toBe(4)
    expect(
      meshFold(
        looking((t) => (t < 2 ? 1 : 0), [surface(1, 1, 1), surface(1, 0, 0)]),
        ORIGIN,
        UP,
      ),
    ).toBe(1)
    expect(
      meshFold(
        looking((t) => (t < 4 ? 1 : 0), [surface(1, 1, 1), surface(1, 0, 0)]),
        ORIGIN,
        UP,
      ),
    ).toBe(2)
  })
  it('counts colours of vertices', () => {
    const vertices = box.positions.length / 3
    const colours = new Float32Array(3 * vertices).fill(1)
    colours.set([1, 0, 0], 0)
    expect(
      meshFold(
        looking(() => 0, [surface(1, 1, 1)], { colours }),
        ORIGIN,
        UP,
      ),
    ).toBe(1)
    expect(
      meshFold(
        looking(() => 0, [surface(1, 1, 1)], { colours: colours.fill(0.5) }),
        ORIGIN,
        UP,
      ),
    ).toBe(4)
  })
  it('counts the pixels of a texture where they lie, and takes places of one that is not read for others', () => {
    const vertices = box.positions.length / 3
    const coordinates = Float32Array.from(
      { length: 2 * vertices },
      (_, i) => box.positions[3 * (i >> 1) + (i % 2) * 2] / 2 + 0.5,
    )
    const white: Picture = { width: 8, height: 8, data: new Uint8ClampedArray(256).fill(255) }
    const half: Picture = {
      ...white,
      data: white.data.map((value, i) => (i % 4 !== 3 && (i >> 2) % 8 < 4 ? 40 : value)),
    }
    const textured = (texture: Surface['texture']) => looking(() => 0, [surface(1, 1, 1, texture)], { coordinates })
    expect(meshFold(textured(white), ORIGIN, UP)).toBe(4)
    expect(meshFold(textured(half), ORIGIN, UP)).toBe(1)
    expect(meshFold(textured('unread'), ORIGIN, UP)).toBe(1)
  })
  it('counts a part that lies on the surface, however small', () => {
    const patch: Mesh = {
      positions: Float32Array.from([1.001, -0.1, -0.1, 1.001, 0.1, -0.1, 1.001, 0.1, 0.1]),
      indices: Uint32Array.from([0, 1, 2]),
    }
    const part = (mesh: Mesh, surfaces: readonly Surface[]): Part => ({
      name: '',
      node: null,
      placement: PLACED_AS_IT_IS,
      parts: [],
      mesh: {
        ...mesh,
        looks: { surfaces, ofTriangle: new Uint32Array(mesh.indices.length / 3), coordinates: null, colours: null },
      },
    })
    const whole = wholeMesh([part(box, [surface(1, 1, 1)]), part(patch, [surface(0.8, 0.1, 0.1)])])
    expect(meshFold(whole, ORIGIN, UP)).toBe(1)
  })
})
