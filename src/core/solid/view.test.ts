import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  axesOf,
  boundsOf,
  dot,
  fittedCamera,
  hullPoints,
  lengthOf,
  type Mesh,
  middleOf,
  placed,
  projected,
  reach,
  type Sight,
  subtract,
  sweptOutline,
  type Turn,
  turnedBy,
  unit,
  type Vector,
  wobble,
} from '.'

const double = (min: number, max: number) => fc.double({ min, max, noNaN: true })
const vector = fc.tuple(double(-5, 5), double(-5, 5), double(-5, 5))
const direction = vector.filter((v) => lengthOf(v) > 0.1).map(unit)
const anyTurn: fc.Arbitrary<Turn> = fc.record({ pivot: vector, axis: direction, lean: double(-60, 60) })
const anyPoints = fc.array(vector, { minLength: 2, maxLength: 24 })
const anySight: fc.Arbitrary<Sight> = fc.record({
  around: double(-180, 180),
  height: double(-90, 90),
  roll: double(-180, 180),
  fieldOfView: fc.option(double(5, 90), { nil: null }),
})
const flat = (points: readonly Vector[]) => points.flat()
const ANGLES = Array.from({ length: 120 }, (_, i) => 3 * i)

describe('a model that turns', () => {
  it('reaches as far in a direction as its furthest point does at any angle (against brute force)', () => {
    fc.assert(
      fc.property(anyPoints, anyTurn, vector, (points, turn, way) => {
        const far = reach(flat(points), turn, way)
        let most = Number.NEGATIVE_INFINITY
        for (const degrees of ANGLES)
          for (const point of points) most = Math.max(most, dot(placed(turnedBy(turn, degrees), point), way))
        expect(most).toBeLessThanOrEqual(far + 1e-6)
        // Three degrees apart, the brute search misses next to nothing of it.
        expect(far - most).toBeLessThan(0.002 * 20 * (lengthOf(way) + 0.01))
      }),
      { numRuns: 60 },
    )
  })
  it('lies all of it within the guide of a fitted camera, at any angle, and touches it within a hundredth', () => {
    const guide = { width: 640, height: 480, marginX: 24, marginY: 40 }
    fc.assert(
      fc.property(anyPoints, anyTurn, anySight, (points, turn, sight) => {
        const camera = fittedCamera(flat(points), turn, sight, guide)
        const { forward, right, up } = axesOf(camera)
        const across = [right, up].map(
          (way) => reach(flat(points), turn, way) + reach(flat(points), turn, way.map((x) => -x) as unknown as Vector),
        )
        // Seen along its axis, what lies on it is a point.
        fc.pre(Math.max(...across) >= 0.1)
        let gap = Number.POSITIVE_INFINITY
        let front = Number.POSITIVE_INFINITY
        for (const degrees of ANGLES)
          for (const point of points) {
            const at = placed(turnedBy(turn, degrees), point)
            front = Math.min(front, dot(subtract(at, camera.from), forward))
            const seen = projected(at, camera, 640, 480)
            if (!seen) throw new Error('nothing lies behind the camera')
            const { x, y } = seen
            gap = Math.min(gap, x - 24, 616 - x, y - 40, 440 - y)
          }
        expect(gap).toBeGreaterThan(-0.01)
        // A thin model that reaches towards the camera keeps it away: it stays in front of that, however little the guide is filled.
        if (camera.fieldOfView === null || front > 0.02) expect(gap).toBeLessThan(0.01 * 640)
      }),
      { numRuns: 80 },
    )
  })
  it('looks the same after a whole turn, and the other way it is where it was', () => {
    fc.assert(
      fc.property(anyTurn, double(-2000, 2000), vector, (turn, degrees, point) => {
        const here = placed(turnedBy(turn, degrees), point)
        expect(lengthOf(subtract(placed(turnedBy(turn, degrees + 360), point), here))).toBeLessThan(1e-6)
        // The pivot stays, and the axis through it.
        expect(lengthOf(placed(turnedBy(turn, degrees), turn.pivot))).toBeLessThan(1e-9)
      }),
    )
  })
  it('wobbles by as much as a point lies from the axis, and not where it lies on it (against brute force)', () => {
    const guide = { width: 640, height: 480, marginX: 0, marginY: 0 }
    fc.assert(
      fc.property(anyTurn, anySight, double(-3, 3), (turn, sight, along) => {
        const camera = fittedCamera([5, 5, 5, -5, -5, -5], turn, sight, guide)
        const on = turn.pivot.map((x, i) => x + along * turn.axis[i]) as unknown as Vector
        expect(wobble(on, turn, camera, 640, 480).px).toBeLessThan(1e-3)
        const beside = on.map((x, i) => x + (i === 0 ? 1 : 0.4)) as unknown as Vector
        const path = ANGLES.flatMap((degrees) => {
          const seen = projected(placed(turnedBy(turn, degrees), beside), camera, 640, 480)
          return seen ? [seen] : []
        })
        const mean = (side: 'x' | 'y') => path.reduce((sum, each) => sum + each[side], 0) / path.length
        const most = Math.max(...path.map(({ x, y }) => Math.hypot(x - mean('x'), y - mean('y'))))
        expect(wobble(beside, turn, camera, 640, 480).px).toBeCloseTo(most, 0)
      }),
      { numRuns: 60 },
    )
    const parallel = { from: [0, 0, 12], at: [0, 0, 0], up: [0, 1, 0], fieldOfView: null, height: 10 } as const
    const turn: Turn = { pivot: [0, 0, 0], axis: [0, 1, 0], lean: 0 }
    // Seen from the side, a point two units off the axis goes two units to both sides: 48 px each.
    expect(wobble([2, 0, 0], turn, parallel, 640, 480).px).toBeCloseTo(96, 1)
  })
  it('stays within its swept outline', () => {
    fc.assert(
      fc.property(anyPoints, anyTurn, anySight, (points, turn, sight) => {
        const guide = { width: 640, height: 480, marginX: 60, marginY: 60 }
        const camera = fittedCamera(flat(points), turn, sight, guide)
        const { right, up } = axesOf(camera)
        // A point of no extent has no outline that numbers could show.
        if (
          Math.max(
            ...[right, up].map(
              (way) =>
                reach(flat(points), turn, way) + reach(flat(points), turn, way.map((x) => -x) as unknown as Vector),
            ),
          ) < 0.1
        )
          return
        const outline = sweptOutline(flat(points), turn, camera, 640, 480)
        for (const degrees of [0, 77, 200])
          for (const point of points) {
            const seen = projected(placed(turnedBy(turn, degrees), point), camera, 640, 480)
            if (!seen) continue
            // In every direction something of the outline reaches as far.
            for (let k = 0; k < 96; k += 7) {
              const c = Math.cos((2 * Math.PI * k) / 96)
              const s = -Math.sin((2 * Math.PI * k) / 96)
              const far = Math.max(...outline.map(({ x, y }) => x * c + y * s))
              expect(seen.x * c + seen.y * s).toBeLessThanOrEqual(far + 3)
            }
          }
      }),
      { numRuns: 40 },
    )
  })
})

describe('the hull of a mesh', () => {
  it('holds every vertex in every direction, however flat and leaning it is, and reaches little beyond', () => {
    const ball: Vector[] = Array.from({ length: 6000 }, (_, i) => {
      const y = 1 - (2 * (i + 0.5)) / 6000
      const r = Math.sqrt(1 - y * y)
      return [r * Math.cos(2.399963 * i), y, r * Math.sin(2.399963 * i)]
    })
    const sizes = fc.tuple(double(0.01, 5), double(0.01, 5), double(0.01, 5))
    fc.assert(
      fc.property(sizes, anyTurn, fc.array(direction, { minLength: 40, maxLength: 40 }), (size, turn, ways) => {
        const shaped = ball.map((p) => placed(turnedBy(turn, 50), p.map((x, axis) => x * size[axis]) as never))
        const mesh: Mesh = { positions: Float32Array.from(flat(shaped)), indices: new Uint32Array(0) }
        const hull = hullPoints(mesh)
        expect(hull.length / 3).toBeLessThanOrEqual(512)
        const middle = middleOf(boundsOf(mesh) as never)
        for (const way of ways) {
          const far = (points: ArrayLike<number>) => {
            let most = Number.NEGATIVE_INFINITY
            for (let i = 0; i < points.length; i += 3)
              most = Math.max(most, dot(subtract([points[i], points[i + 1], points[i + 2]], middle), way))
            return most
          }
          expect(far(hull)).toBeGreaterThanOrEqual(far(mesh.positions) * 0.9999)
          expect(far(hull)).toBeLessThanOrEqual(far(mesh.positions) * 1.01)
        }
      }),
      { numRuns: 30 },
    )
    const few: Mesh = {
      positions: Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 0]),
      indices: new Uint32Array(0),
    }
    expect(hullPoints(few)).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0])
  })
})
