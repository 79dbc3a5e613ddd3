import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Picture } from '../image'
import { seeded } from '../random'
import { maskEdge } from './mask-edge'
import { placeWords } from './place'

const SIZE = 96
const pictureOf = (at: (x: number, y: number) => readonly number[]): Picture => {
  const data = new Uint8ClampedArray(4 * SIZE * SIZE)
  for (let y = 0; y < SIZE; y++) for (let x = 0; x < SIZE; x++) data.set(at(x, y), 4 * (y * SIZE + x))
  return { width: SIZE, height: SIZE, data }
}
const noise = (x: number, y: number, seed: number) => 12 * (seeded(seed, x, y) - 0.5)
/** A still with grain. */
const still = (x: number, y: number) => {
  const v = 80 + x / 2 + noise(x, y, 1)
  return [v, v, v + 20]
}
const disc = (x: number, y: number, soft: number) => {
  const away = Math.hypot(x - 64, y - 30)
  return Math.min(1, Math.max(0, (20 - away) / soft + 0.5))
}
/** The still, brighter by `by` within a disc whose edge is `soft` px wide. */
const masked = (by: number, soft: number) => {
  const whole = pictureOf((x, y) => [...still(x, y).map((v) => v + by * disc(x, y, soft)), 255])
  const without = pictureOf((x, y) => [...still(x, y), 255])
  const mask = pictureOf((x, y) => [255, 255, 255, 255 * disc(x, y, soft)])
  return maskEdge(whole, without, mask)
}

describe('the edge of a mask', () => {
  it('is seen where what it shows is of another brightness, and said where', () => {
    const found = masked(60, 2)
    expect(found?.share).toBeGreaterThan(0.9)
    expect(found?.step).toBeGreaterThan(0.1)
    expect(found && placeWords(found.at)).toBe('at the top right')
  })
  it('is not seen where it fades softly, or shows the same as lies around it, or light that is a hair brighter', () => {
    expect(masked(60, 30)).toBeNull()
    expect(masked(0, 2)).toBeNull()
    expect(masked(4, 2)).toBeNull()
  })
  it('is never seen in a mask that has no edge', () => {
    fc.assert(
      fc.property(fc.nat(), fc.nat(255), (seed, alpha) => {
        const picture = pictureOf((x, y) => [...still(x + seed, y), 255])
        expect(
          maskEdge(
            picture,
            pictureOf(() => [0, 0, 0, 255]),
            pictureOf(() => [255, 255, 255, alpha]),
          ),
        ).toBeNull()
      }),
      { numRuns: 10 },
    )
  })
  it('has places in words', () => {
    expect(placeWords({ x: 0.1, y: 0.9 })).toBe('at the bottom left')
    expect(placeWords({ x: 0.5, y: 0.5 })).toBe('in the middle')
    expect(placeWords({ x: 1, y: 0 })).toBe('at the top right')
  })
})
