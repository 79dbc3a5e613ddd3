import { describe, expect, it } from 'vitest'
import { seeded } from '../../random'
import { type Filmed, field, filmed, wall } from '../../testing/footage'
import { composed, inverseView, laidOver, type SceneView, seenAt } from '..'

const turnedBy = (degrees: number, zoom: number, x: number, y: number): SceneView => {
  const cos = Math.cos((degrees * Math.PI) / 180) * zoom
  const sin = Math.sin((degrees * Math.PI) / 180) * zoom
  return [cos, -sin, x, sin, cos, y, 0, 0, 1]
}

/** A wall with a lamp before it that goes round, as one camera sees it. */
const clipOf = (seed: number, view: SceneView, size: { width: number; height: number }, bright = 1): Filmed => ({
  ...size,
  frames: 8,
  seed,
  grain: 3,
  view: () => view,
  light: () => bright,
  scene(x, y, n, into) {
    wall(x, y, into, 7)
    const angle = (2 * Math.PI * n) / 8
    if (Math.hypot(x - 0.2 * Math.cos(angle), y - 0.1 * Math.sin(angle)) < 0.06) into.set([250, 220, 120])
  },
})

const STILL = { width: 320, height: 180 }

describe('a clip of the view of a still', () => {
  it('is laid where the scene lies in that: shifted, turned, nearer, in other light, of another size and shape', () => {
    for (let seed = 1; seed <= 8; seed++) {
      const within = (k: number, most: number) => (2 * seeded(seed, k) - 1) * most
      const view = turnedBy(within(1, 5), 1 + within(2, 0.2), within(3, 0.1), within(4, 0.06))
      const still = filmed(clipOf(1, turnedBy(1, 1, 0.02, 0), STILL), 0)
      const size = seed % 2 === 0 ? STILL : { width: 240, height: 180 }
      const clip = clipOf(seed, view, size, 0.85)
      const laid = laidOver(still, [filmed(clip, 3), filmed(clip, 6)])
      expect(laid, `seed ${seed}`).not.toBeNull()
      if (!laid) return
      // Scene from the clip, then the still from the scene.
      const truth = composed(inverseView(turnedBy(1, 1, 0.02, 0)), view)
      const own = turnedBy(laid.rotation, laid.width, laid.x, laid.y)
      for (const [x, y] of [
        [0, 0],
        [0.4, 0.2],
        [-0.4, -0.2],
      ] as const) {
        const [ax, ay] = seenAt(truth, x, y)
        const [bx, by] = seenAt(own, x, y)
        expect(Math.hypot(ax - bx, ay - by) * STILL.width, `seed ${seed}`).toBeLessThan(0.5)
      }
    }
  })
  it('is not where another scene is shown, or nothing', () => {
    const still = filmed(clipOf(1, turnedBy(0, 1, 0, 0), STILL), 0)
    const other = {
      ...clipOf(2, turnedBy(0, 1, 0, 0), STILL),
      scene: (x: number, y: number, _n: number, into: Float64Array) =>
        void into.fill(110 + 50 * field(8, x * 11, y * 13) + 30 * field(9, x * 40, y * 40)),
    }
    expect(laidOver(still, [filmed(other, 0), filmed(other, 4)])).toBeNull()
    const plain = { ...still, data: new Uint8ClampedArray(still.data.length).fill(255) }
    expect(laidOver(still, [plain])).toBeNull()
    expect(laidOver(plain, [still])).toBeNull()
  })
})
