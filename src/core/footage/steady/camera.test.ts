import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../../image'
import { field, filmed, wall } from '../../testing/footage'
import { Aligner, CAMERA_MODELS, type CameraModel, composed, movedBy, SAME_VIEW, type SceneView, seenAt } from '..'
import { sizesOf } from './sizes'

const WIDTH = 240
const HEIGHT = 135
const ASPECT = HEIGHT / WIDTH

interface Shot {
  readonly view?: SceneView
  readonly seed?: number
  /** Of light at a place, as a factor. */
  readonly light?: (x: number, y: number) => number
  /** Brightness of an object before the wall, 0 … 255; null where there is none. */
  readonly before?: (x: number, y: number) => number | null
}
const shot = ({ view = SAME_VIEW, seed = 1, light, before }: Shot = {}): Picture =>
  filmed(
    {
      ...{ width: WIDTH, height: HEIGHT, frames: 1, seed, grain: 3, looks: 1 },
      view: () => view,
      scene(x, y, _n, into) {
        wall(x, y, into)
        const bright = light?.(x, y) ?? 1
        for (const c of [0, 1, 2]) into[c] *= bright
        const thing = before?.(x, y) ?? null
        if (thing !== null) into.fill(thing)
      },
    },
    seed,
  )

const small = (most: number) => fc.double({ min: -most, max: most, noNaN: true })
/** How cameras that are held move between two frames, by each model. */
const moves: Readonly<Record<CameraModel, fc.Arbitrary<SceneView>>> = {
  shift: fc.tuple(small(0.02), small(0.02)).map(([x, y]): SceneView => [1, 0, x, 0, 1, y, 0, 0, 1]),
  similarity: fc
    .tuple(small(0.02), small(0.02), small(0.02), small(0.02))
    .map(([x, y, turn, zoom]): SceneView => [1 + zoom, -turn, x, turn, 1 + zoom, y, 0, 0, 1]),
  perspective: fc
    .tuple(small(0.015), small(0.015), small(0.02), small(0.02), small(0.02), small(0.02), small(0.03), small(0.03))
    .map(([x, y, a, b, d, e, g, h]): SceneView => [1 + a, b, x, d, 1 + e, y, g, h, 1]),
}

/** How far, in px, what was found lies from what is so, at the most of some places. */
function off(found: SceneView, known: SceneView): number {
  const both = composed(known, found)
  let most = 0
  for (const x of [-0.35, 0, 0.35])
    for (const y of [-0.18, 0, 0.18]) {
      const [sx, sy] = seenAt(both, x, y)
      most = Math.max(most, WIDTH * Math.hypot(sx - x, sy - y))
    }
  return most
}

describe('a picture that is aligned to another', () => {
  it.each(CAMERA_MODELS)('is found where it lies, to a fifth of a px: %s', (model) => {
    const aligner = new Aligner(sizesOf(shot({ seed: 7 })), model)
    fc.assert(
      fc.property(moves[model], fc.integer({ min: 10, max: 99 }), (view, seed) => {
        const { view: found, agrees } = aligner.find(sizesOf(shot({ view, seed })))
        expect(off(found, view)).toBeLessThan(0.2)
        expect(agrees).toBeGreaterThan(0.7)
      }),
      { numRuns: 8 },
    )
  })
  it('is so whatever its light does: brighter, burnt at one side, with a shadow across it', () => {
    const aligner = new Aligner(sizesOf(shot({ seed: 7 })), 'similarity')
    const view: SceneView = [1.01, -0.008, 0.012, 0.008, 1.01, -0.007, 0, 0, 1]
    for (const light of [
      () => 1.3,
      () => 0.7,
      (x: number) => 1 + 0.8 * x,
      (x: number, y: number) => (x + y > 0.05 ? 0.6 : 1),
      (x: number, y: number) => 1 + 0.7 * Math.exp(-40 * (x * x + y * y)),
    ])
      expect(off(aligner.find(sizesOf(shot({ view, seed: 21, light }))).view, view)).toBeLessThan(0.3)
  })
  it('is so though much of it is hidden by what moves before it', () => {
    const aligner = new Aligner(sizesOf(shot({ seed: 7 })), 'similarity')
    const view: SceneView = [0.99, 0.01, -0.011, -0.01, 0.99, 0.008, 0, 0, 1]
    const before = (x: number, y: number) => (x > 0.1 ? 120 + 90 * field(77, x * 18, y * 18) : null)
    const { view: found, agrees } = aligner.find(sizesOf(shot({ view, seed: 22, before })))
    expect(off(found, view)).toBeLessThan(0.3)
    expect(agrees).toBeLessThan(0.85)
  })
  it('is found from near by where it is thought to lie, without the coarse sizes', () => {
    const aligner = new Aligner(sizesOf(shot({ seed: 7 })), 'shift')
    const view: SceneView = [1, 0, 0.1, 0, 1, -0.04, 0, 0, 1]
    const sizes = sizesOf(shot({ view, seed: 23 }))
    const near: SceneView = [1, 0, -0.095, 0, 1, 0.037, 0, 0, 1]
    expect(off(aligner.find(sizes, near, aligner.coarsestNear).view, view)).toBeLessThan(0.2)
  })
  it('agrees with nothing where it shows another scene, or nothing at all', () => {
    const aligner = new Aligner(sizesOf(shot({ seed: 7 })), 'similarity')
    const elsewhere = shot({ seed: 24, before: (x, y) => 120 + 90 * field(78, x * 25, y * 25) })
    expect(aligner.find(sizesOf(elsewhere)).agrees).toBeLessThan(0.4)
    const plain = new Aligner(sizesOf(shot({ before: () => 90, seed: 25 })), 'shift')
    expect(plain.find(sizesOf(shot())).agrees).toBeLessThan(0.5)
  })
})

describe('how far a view moves a picture', () => {
  it('is what it does to its corners: nothing where it is the same, a shift where it is one', () => {
    expect(movedBy(SAME_VIEW, ASPECT)).toBe(0)
    fc.assert(
      fc.property(small(0.3), small(0.3), (x, y) => {
        expect(movedBy([1, 0, x, 0, 1, y, 0, 0, 1], ASPECT)).toBeCloseTo(Math.hypot(x, y), 9)
      }),
    )
  })
})
