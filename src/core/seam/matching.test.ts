import { describe, expect, it } from 'vitest'
import { CHANNELS, type Plane } from './descriptor'
import { gridOf, Pair, Ranged, unmatched } from './matching'

const SIDE = 48
/** A soft texture that goes on without end, looked at from (x, y), px: what is at x + 1 is one pixel further right. */
const waves = (x: number, y: number): number =>
  0.5 + 0.2 * Math.sin(0.9 * x + 0.4 * y) + 0.2 * Math.sin(0.5 * y - 0.3 * x)
const planeOf = (value: (x: number, y: number) => number): Plane => {
  const values = new Float32Array(CHANNELS * SIDE * SIDE)
  for (let i = 0; i < values.length; i++) {
    const pixel = Math.floor(i / CHANNELS)
    values[i] = value(pixel % SIDE, Math.floor(pixel / SIDE))
  }
  return { width: SIDE, height: SIDE, values }
}
const pairOf = (before: Plane, after: Plane) =>
  new Pair(new Ranged(before, gridOf(before)), new Ranged(after, gridOf(before)), gridOf(before))
/** A square that is lit, its first pixel and its side, px. */
const lit = (x0: number, y0: number, side: number) => (x: number, y: number) =>
  x >= x0 && x < x0 + side && y >= y0 && y < y0 + side ? 1 : waves(x, y)

describe('blocks of a pair of frames', () => {
  it.each([
    [1, 0],
    [0, 3],
    [5, -5],
    [-4, 2],
  ])('leave nothing where all moves by (%d, %d), within reach, whatever comes in at an edge', (dx, dy) => {
    const pair = pairOf(
      planeOf(waves),
      planeOf((x, y) => waves(x - dx, y - dy)),
    )
    expect(pair.value()).toBeLessThan(0.01)
    expect(unmatched(pair.before.plane, pair.after.plane, pair.grid)).toBeGreaterThan(0.1)
  })
  it('leave nothing where all moves by half a pixel', () => {
    const pair = pairOf(
      planeOf(waves),
      planeOf((x, y) => waves(x - 2.5, y)),
    )
    expect(pair.value()).toBeLessThan(0.01)
  })
  it('take a value half-way to each neighbour for their own, and none beyond', () => {
    const plane = planeOf((x) => (x % 2 === 0 ? 0.2 : 0.8))
    const ranged = new Ranged(plane, gridOf(plane))
    ranged.around(0)
    const { least, most } = ranged
    const dark = CHANNELS * (5 * SIDE + 4)
    for (const [i, low, high] of [
      [dark, 0.2, 0.5],
      [dark + CHANNELS, 0.5, 0.8],
    ] as const) {
      expect(least[i]).toBeCloseTo(low, 6)
      expect(most[i]).toBeCloseTo(high, 6)
    }
  })
  it('have their ranges from the eight pixels beside each, also where the frame ends and blocks are larger', () => {
    const width = 45
    const height = 37
    const values = Float32Array.from({ length: CHANNELS * width * height }, (_, i) => ((i * 7919) % 251) / 251)
    const plane = { width, height, values }
    const grid = gridOf(plane)
    const ranged = new Ranged(plane, grid)
    for (let index = grid.across * grid.down - 1; index >= 0; index -= 2) ranged.around(index)
    for (let i = 0; i < values.length; i++) {
      const x = Math.floor(i / CHANNELS) % width
      const y = Math.floor(i / CHANNELS / width)
      const halfWay: number[] = []
      for (let row = Math.max(0, y - 1); row <= Math.min(height - 1, y + 1); row++)
        for (let column = Math.max(0, x - 1); column <= Math.min(width - 1, x + 1); column++)
          halfWay.push((values[i] + values[CHANNELS * (row * width + column) + (i % CHANNELS)]) / 2)
      expect(ranged.least[i]).toBeCloseTo(Math.min(...halfWay), 6)
      expect(ranged.most[i]).toBeCloseTo(Math.max(...halfWay), 6)
    }
  })
  it('leave what goes further than that, where it was and where it is', () => {
    const pair = pairOf(planeOf(lit(16, 16, 8)), planeOf(lit(32, 32, 8)))
    const worst = pair.residuals().flatMap((left, index) => (left > 0.2 ? [index] : []))
    // Six blocks a side: the third of the third row, and the fifth of the fifth.
    expect(worst).toEqual([14, 28])
    expect(pair.finely(14)).toBeGreaterThan(0.2)
    expect(pair.finely(28)).toBeGreaterThan(0.2)
  })
  it('leave little, pixel by pixel, where one thing passes another', () => {
    // A disc goes right over a ground that goes left: no single shift of a block at its rim says both.
    const seen = (n: number) => planeOf((x, y) => (Math.hypot(x - 22 - 2 * n, y - 24) < 7 ? 1 : waves(x + n, y)))
    const pair = pairOf(seen(0), seen(1))
    const residuals = pair.residuals()
    const rim = residuals.indexOf(Math.max(...residuals))
    expect(residuals[rim]).toBeGreaterThan(0.05)
    expect(pair.finely(rim)).toBeLessThan(0.5 * residuals[rim])
  })
})
