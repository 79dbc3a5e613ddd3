import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Filmed, field, filmed, wall } from '../../testing/footage'
import {
  applyMend,
  CAMERA_MODELS,
  type CameraModel,
  cameraPath,
  composed,
  editBy,
  inverseView,
  laidAs,
  learn,
  movedBy,
  plainPlan,
  SAME_VIEW,
  type SceneView,
  seenAt,
  shownByAll,
  UnsteadyError,
  viewShowing,
} from '..'

const WIDTH = 320
const HEIGHT = 180
const ASPECT = HEIGHT / WIDTH

const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true })
const views = fc
  .tuple(small(0.2), small(0.2), small(0.1), small(0.2), small(0.2), small(0.1), small(0.2), small(0.2))
  .map(([a, b, x, d, e, y, g, h]): SceneView => [1 + a, b, x, d, 1 + e, y, g, h, 1])

describe('a view', () => {
  it('and the way back lead to where they began', () => {
    fc.assert(
      fc.property(views, (view) => {
        expect(movedBy(composed(view, inverseView(view)), ASPECT)).toBeLessThan(1e-9)
        expect(movedBy(composed(inverseView(view), view), ASPECT)).toBeLessThan(1e-9)
      }),
    )
  })
  it('after another is both, one after the other', () => {
    fc.assert(
      fc.property(views, views, small(0.5), small(0.28), (first, second, x, y) => {
        const [sx, sy] = seenAt(first, ...seenAt(second, x, y))
        const [cx, cy] = seenAt(composed(first, second), x, y)
        expect(Math.hypot(cx - sx, cy - sy)).toBeLessThan(1e-9)
      }),
    )
  })
  it('that is the same leaves a picture as it was, and whole px move it by whole px', () => {
    const picture = filmed(clipOf('shift', 1, 0), 0)
    expect(laidAs(picture, SAME_VIEW).data).toEqual(picture.data)
    const moved = laidAs(picture, [1, 0, 3 / WIDTH, 0, 1, -2 / WIDTH, 0, 0, 1])
    for (const [x, y] of [
      [10, 20],
      [100, 60],
      [300, 170],
    ] as const)
      expect(moved.data[4 * (y * WIDTH + x)]).toBe(picture.data[4 * ((y - 2) * WIDTH + x + 3)])
  })
})

/** A wall that stands, and a buoy before it that goes round; a camera that shakes as a model has it, an exposure that breathes. */
function clipOf(model: CameraModel, seed: number, by = 1): Filmed {
  const at = (k: number, n: number) => by * field(seed + k, n * 0.7 + 0.3, 0.5)
  const cameras: Record<CameraModel, (n: number) => SceneView> = {
    shift: (n) => [1, 0, 0.015 * at(1, n), 0, 1, 0.015 * at(2, n), 0, 0, 1],
    similarity: (n) => {
      const turn = 0.02 * at(3, n)
      const zoom = 1 + 0.02 * at(4, n)
      const c = zoom * Math.cos(turn)
      const s = zoom * Math.sin(turn)
      return [c, -s, 0.015 * at(1, n), s, c, 0.015 * at(2, n), 0, 0, 1]
    },
    perspective: (n) => [
      ...[1 + 0.02 * at(3, n), 0.02 * at(4, n), 0.015 * at(1, n)],
      ...[0.02 * at(5, n), 1 + 0.02 * at(6, n), 0.015 * at(2, n)],
      ...[0.03 * at(7, n), 0.03 * at(8, n), 1],
    ],
  }
  return {
    width: WIDTH,
    height: HEIGHT,
    frames: 10,
    seed,
    grain: 4,
    looks: 1,
    view: cameras[model],
    light: (n) => 1 + 0.1 * Math.sin(n),
    scene(x, y, n, into) {
      wall(x, y, into)
      if (Math.hypot(x - 0.2 * Math.cos(n / 2), y - 0.1 * Math.sin(n / 2)) < 0.08) into.set([240, 120, 40])
    },
  }
}
const picturesOf = (clip: Filmed) => Array.from({ length: clip.frames }, (_, n) => filmed(clip, n))

/** How far places of the scene still move, root mean square, px: by what is known of the camera. */
function leftOf(clip: Filmed, found: readonly SceneView[]): number {
  let sum = 0
  let count = 0
  for (const x of [-0.4, 0, 0.4])
    for (const y of [-0.2, 0, 0.2]) {
      const seen = found.map((view, n) => seenAt(composed(clip.view?.(n) ?? SAME_VIEW, view), x, y))
      const mean = [0, 1].map((k) => seen.reduce((all, place) => all + place[k], 0) / seen.length)
      for (const place of seen) {
        sum += (place[0] - mean[0]) ** 2 + (place[1] - mean[1]) ** 2
        count++
      }
    }
  return WIDTH * Math.sqrt(sum / count)
}

describe('a camera that shakes', () => {
  it.each(CAMERA_MODELS)('is followed to less than a quarter of a px: %s', async (model) => {
    const clip = clipOf(model, 5)
    const pictures = picturesOf(clip)
    const path = await cameraPath(() => pictures, clip.frames, model)
    expect(WIDTH * path.shake).toBeGreaterThan(1)
    expect(path.lost).toEqual([])
    expect(leftOf(clip, path.views)).toBeLessThan(0.25)
    // Every corner of what is shown lies within every picture.
    const shown = shownByAll(path)
    expect(shown.scale).toBeGreaterThan(0.9)
    for (const view of path.views)
      for (const x of [-0.5, 0.5])
        for (const y of [-ASPECT / 2, ASPECT / 2]) {
          const [sx, sy] = seenAt(viewShowing(view, shown), x, y)
          expect(Math.abs(sx)).toBeLessThan(0.5 + 1e-4)
          expect(Math.abs(sy)).toBeLessThan(ASPECT / 2 + 1e-4)
        }
  })
  it('is taken out of a clip by a mend, and what is left is measured', async () => {
    const clip = clipOf('similarity', 8)
    const pictures = picturesOf(clip)
    const shape = { delaysMs: pictures.map(() => 40), playsForever: true, means: [] }
    const cropped = applyMend(plainPlan(shape), { kind: 'crop', from: 2, to: 8 }, shape)
    const plan = applyMend(cropped, { kind: 'steady', model: 'similarity' }, shape)
    expect(plan.edits).toEqual([{ mend: { kind: 'steady', model: 'similarity' }, from: 2, to: 8 }])
    const learned = await learn(plan.edits, () => pictures.map((picture, n) => ({ n, picture })))
    const { before = 0, after = 1 } = learned[0]?.steadied ?? {}
    expect(WIDTH * before).toBeGreaterThan(1)
    expect(WIDTH * after).toBeLessThan(0.25)
    // The corners of the wall stand still now, but for grain and what is between px.
    const edit = editBy(learned)
    const a = edit(pictures[3], 3)
    const b = edit(pictures[7], 7)
    const differ = (first: typeof a, second: typeof a) => {
      let sum = 0
      let light = 0
      for (let i = 0; i < first.data.length; i += 4) light += first.data[i] / second.data[i]
      light /= first.data.length / 4
      for (let y = 0; y < 40; y++)
        for (let x = 0; x < 60; x++) {
          const i = 4 * (y * WIDTH + x)
          sum += Math.abs(first.data[i] - light * second.data[i])
        }
      return sum / 2400
    }
    expect(differ(a, b)).toBeLessThan(0.6 * differ(pictures[3], pictures[7]))
  })
  it('that goes elsewhere, or sees nothing, is said', async () => {
    const plain: Filmed = { ...clipOf('shift', 1), grain: 0, scene: (_x, _y, _n, into) => into.fill(90) }
    const nothing = picturesOf(plain)
    await expect(cameraPath(() => nothing, 10, 'similarity')).rejects.toThrow(UnsteadyError)
    const away = { aspect: ASPECT, views: [0, 0.7].map((x): SceneView => [1, 0, x, 0, 1, 0, 0, 0, 1]) }
    expect(() => shownByAll(away)).toThrow('goes too far')
  })
})
