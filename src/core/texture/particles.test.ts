import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PARTICLE, type ParticleSpec, particlesAt } from './particles'

const unit = fc.double({ min: 0, max: 1, noNaN: true })
const whole = (min: number, max: number) => fc.integer({ min, max })
const specs: fc.Arbitrary<ParticleSpec> = fc.record({
  count: whole(1, 60),
  size: fc.double({ min: 0.5, max: 40, noNaN: true }),
  sizeSpread: unit,
  depths: whole(1, 5),
  parallax: unit,
  driftX: whole(-6, 6),
  driftY: whole(-6, 6),
  sway: fc.double({ min: 0, max: 60, noNaN: true }),
  swayTurns: whole(1, 5),
  twinkle: unit,
  twinkleTurns: whole(1, 5),
  spin: whole(0, 5),
  births: whole(0, 6),
  seed: whole(0, 9999),
})
const W = 320
const H = 180
const { x, y, size, angle, alpha, stride } = PARTICLE

/** The distance on a ring. */
const apart = (a: number, b: number, round: number) => {
  const d = Math.abs(a - b) % round
  return Math.min(d, round - d)
}

describe('particles', () => {
  it('come home: a cycle later each is where it was, as large, turned and opaque', () => {
    fc.assert(
      fc.property(specs, unit, (spec, t) => {
        const here = particlesAt(spec, W, H, t)
        const later = particlesAt(spec, W, H, t + 1)
        for (let i = 0; i < here.length; i += stride) {
          // Where one is born just then it is not to be seen, and may be either.
          if (here[i + alpha] < 1e-3) continue
          expect(apart(here[i + x], later[i + x], W)).toBeLessThan(0.05)
          expect(apart(here[i + y], later[i + y], H)).toBeLessThan(0.05)
          expect(Math.abs(here[i + size] - later[i + size])).toBeLessThan(0.05)
          expect(apart(here[i + angle], later[i + angle], 360)).toBeLessThan(0.2)
          expect(Math.abs(here[i + alpha] - later[i + alpha])).toBeLessThan(0.01)
        }
      }),
    )
  })
  it('lie within their tile, and go on smoothly across its edges', () => {
    fc.assert(
      fc.property(specs, unit, (spec, t) => {
        const here = particlesAt(spec, W, H, t)
        const next = particlesAt(spec, W, H, t + 1e-4)
        for (let i = 0; i < here.length; i += stride) {
          expect(here[i + x]).toBeGreaterThanOrEqual(0)
          expect(here[i + x]).toBeLessThanOrEqual(W)
          if (here[i + alpha] < 1e-2 || next[i + alpha] < 1e-2) continue
          expect(apart(here[i + x], next[i + x], W)).toBeLessThan(1)
          expect(apart(here[i + y], next[i + y], H)).toBeLessThan(1)
        }
      }),
    )
  })
  it('part by depth: what is farther drifts fewer tiles, whole ones, and is smaller', () => {
    const spec: ParticleSpec = {
      count: 30,
      size: 10,
      sizeSpread: 0,
      depths: 3,
      parallax: 0.8,
      driftX: 5,
      driftY: 0,
      sway: 0,
      swayTurns: 1,
      twinkle: 0,
      twinkleTurns: 1,
      spin: 0,
      births: 0,
      seed: 3,
    }
    const dt = 1e-3
    const here = particlesAt(spec, W, H, 0)
    const next = particlesAt(spec, W, H, dt)
    const tiles = [0, 10, 20].map((i) => {
      const moved = (((next[i * stride + x] - here[i * stride + x]) % W) + W) % W
      return Math.round(moved / W / dt)
    })
    expect(tiles).toEqual([1, 3, 5])
    expect(here[0 * stride + size]).toBeLessThan(here[20 * stride + size])
  })
  it('that are born several times in a cycle begin elsewhere each time', () => {
    const spec: ParticleSpec = {
      count: 40,
      size: 10,
      sizeSpread: 0,
      depths: 1,
      parallax: 0,
      driftX: 0,
      driftY: 0,
      sway: 0,
      swayTurns: 1,
      twinkle: 0,
      twinkleTurns: 1,
      spin: 0,
      births: 3,
      seed: 8,
    }
    const places = [0, 1 / 3, 2 / 3].map((t) => particlesAt(spec, W, H, t)[x])
    expect(new Set(places).size).toBe(3)
  })
})
