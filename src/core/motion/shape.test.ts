import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layerKind } from '../layers'
import { anyEase, anyMotion, anyTremble } from '../testing/arbitrary'
import {
  bend,
  closeGap,
  easeAt,
  evenSpeed,
  isOn,
  keyedTogether,
  type Motion,
  mixNumbers,
  motionValue,
  movedPhase,
  reversed,
  reverseEase,
  sampledMotions,
  splitEase,
  thinTogether,
  trembleValue,
  withPeriod,
} from '.'

const x = layerKind('ellipse').properties.x as never
const anyNumbers = anyMotion(x) as fc.Arbitrary<Motion<number>>
const at = (motion: Motion, frame: number, length: number) =>
  motionValue(motion as Motion<number>, frame, length, mixNumbers)
const real = (min: number, max: number) => fc.double({ min, max, noNaN: true })

/** Many keys, as a recording has them. */
const recording = fc
  .array(fc.record({ dx: real(-30, 30), dy: real(-30, 30), rests: fc.boolean() }), { minLength: 3, maxLength: 60 })
  .map((steps) => {
    let px = 100
    let py = 80
    const points = steps.map(({ dx, dy, rests }) => {
      if (!rests) {
        px = px + Math.round(dx * 100) / 100
        py = py + Math.round(dy * 100) / 100
      }
      return [px, py] as const
    })
    const axis = (i: 0 | 1): Motion<number> => ({
      after: 'once',
      period: { cycles: 1 },
      phase: 0,
      keys: points.map((point, k) => ({ at: k / (points.length - 1), value: point[i], ease: 'linear' })),
    })
    return [axis(0), axis(1)] as const
  })

describe('eases', () => {
  it('turned round run backwards', () => {
    fc.assert(
      fc.property(anyEase, real(0.001, 0.999), (ease, t) => {
        fc.pre(!/steps|step|hold/.test(ease))
        expect(easeAt(reverseEase(ease), t)).toBeCloseTo(1 - easeAt(ease, 1 - t), 4)
      }),
    )
    expect(reverseEase('ease-in')).toBe('ease-out')
    expect(reverseEase('steps(4, jump-end)')).toBe('steps(4, jump-start)')
    expect(reverseEase('hold')).toBe('step-start')
  })
  it('parted in two do together what they did', () => {
    fc.assert(
      fc.property(anyEase, real(0.02, 0.98), real(0, 0.999), (ease, t, u) => {
        const parts = splitEase(ease, t)
        fc.pre(parts !== null)
        if (!parts) throw new Error('it has parts')
        const { before, after, progress } = parts
        const together =
          u < t ? progress * easeAt(before, u / t) : progress + (1 - progress) * easeAt(after, (u - t) / (1 - t))
        expect(together).toBeCloseTo(easeAt(ease, u), 3)
      }),
    )
  })
})

describe('another phase or period', () => {
  it('by whole cycles is the same motion that much later', () => {
    fc.assert(
      fc.property(anyNumbers, fc.integer({ min: -3, max: 3 }), real(-50, 50), (motion, cycles, frame) => {
        fc.pre(motion.after !== 'once' && motion.keys.every(({ ease }) => !/step|hold/.test(ease)))
        const length = 48
        const period = 'cycles' in motion.period ? length / motion.period.cycles : motion.period.frames
        const moved = movedPhase(motion, motion.phase + cycles)
        expect(at(moved, frame, length)).toBeCloseTo(at(motion, frame + cycles * period, length), 4)
      }),
    )
  })
  it('shows at the playhead what it showed there', () => {
    fc.assert(
      fc.property(
        anyNumbers,
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 0, max: 47 }),
        (motion, cycles, frame) => {
          fc.pre(motion.after !== 'once' && motion.keys.every(({ ease }) => !/step|hold/.test(ease)))
          const changed = withPeriod(motion, { cycles }, frame, 48)
          expect(Math.abs(at(changed, frame, 48) - at(motion, frame, 48))).toBeLessThan(0.02)
        },
      ),
    )
  })
  /** Of 60, and hardly ever where a step may lie. */
  const anyFrame = fc.integer({ min: -600_000, max: 1_200_000 }).map((n) => (n + 0.37) / 10_000)
  it('free and tied agree where P = N/c', () => {
    fc.assert(
      fc.property(anyNumbers, fc.integer({ min: 1, max: 7 }), anyFrame, (motion, cycles, frame) => {
        const tied = { ...motion, period: { cycles } }
        const free = { ...motion, period: { frames: 60 / cycles } }
        const q = (frame * cycles) / 60 + motion.phase
        // A hold or step may fall on either side of its edge by rounding alone.
        fc.pre(Math.abs(q * 24 - Math.round(q * 24)) > 1e-6)
        expect(at(tied, frame, 60)).toBeCloseTo(at(free, frame, 60), 5)
      }),
    )
  })
  it('backwards is where it was as far before the seam', () => {
    fc.assert(
      fc.property(anyNumbers, real(-90, 90), (motion, frame) => {
        fc.pre(motion.keys.every(({ ease }) => !/step|hold/.test(ease)))
        expect(Math.abs(at(reversed(motion), frame, 48) - at(motion, -frame, 48))).toBeLessThan(0.05)
      }),
    )
  })
})

describe('dense motions', () => {
  it('close without a gap, and what rests still rests', () => {
    fc.assert(
      fc.property(recording, (motions) => {
        const moved = motions.some(({ keys }) => keys.some(({ value }) => value !== keys[0]?.value))
        fc.pre(moved)
        const closed = closeGap(motions)
        const steps = motions[0].keys.slice(1).map((_, i) => {
          const by = closed.map((each, m) => {
            const change = (k: number) => (each.keys[k]?.value ?? 0) - (motions[m]?.keys[k]?.value ?? 0)
            return change(i + 1) - change(i)
          })
          const way = Math.hypot(...motions.map(({ keys }) => (keys[i + 1]?.value ?? 0) - (keys[i]?.value ?? 0)))
          return { by: Math.hypot(...by), way }
        })
        for (const { keys } of closed) expect(keys.at(-1)?.value).toBeCloseTo(keys[0]?.value ?? 0, 6)
        // The slower a step was, the less it is bent: in proportion.
        const total = steps.reduce((sum, { way }) => sum + way, 0)
        const bent = steps.reduce((sum, { by }) => sum + by, 0)
        for (const { by, way } of steps) expect(by).toBeCloseTo((bent * way) / total, 4)
      }),
    )
  })
  it('keep whole turns where those are no gap', () => {
    const turn: Motion<number> = {
      after: 'once',
      period: { cycles: 1 },
      phase: 0,
      keys: [0, 200, 370].map((value, i) => ({ at: i / 2, value, ease: 'linear' })),
    }
    const [closed] = closeGap([turn], (gap) => gap - 360)
    expect(closed?.keys.at(-1)?.value).toBeCloseTo(360)
  })
  it('thinned stay within the error on every frame, with keys of their own', () => {
    fc.assert(
      fc.property(recording, real(0.1, 20), (motions, error) => {
        const thin = thinTogether(motions, error)
        expect(keyedTogether(thin)).toBe(true)
        expect(thin[0]?.keys.length).toBeLessThanOrEqual(motions[0].keys.length)
        for (let n = 0; n <= 60; n++) {
          const off = motions.map((motion, i) => at(motion, n, 60) - at(thin[i] as Motion, n, 60))
          expect(Math.hypot(...off)).toBeLessThanOrEqual(error + 1e-6)
        }
      }),
    )
  })
  it('bent move most at the handle, not at all beyond its reach, and keep every key', () => {
    fc.assert(
      fc.property(recording, real(0, 1), real(-50, 50), real(0.05, 0.5), ([motion], place, by, reach) => {
        const bent = bend(motion, place, by, reach)
        expect(bent.keys.length).toBe(motion.keys.length)
        for (const [i, key] of motion.keys.entries()) {
          const moved = (bent.keys[i]?.value ?? 0) - key.value
          expect(Math.abs(moved)).toBeLessThanOrEqual(Math.abs(by) + 1e-9)
          if (Math.abs(key.at - place) >= reach) expect(moved).toBe(0)
        }
      }),
    )
  })
  it('sampled run through the same points on every frame of the cycle', () => {
    fc.assert(
      fc.property(anyNumbers, (motion) => {
        const still = { ...motion, period: { cycles: 1 }, phase: 0 }
        const [dense] = sampledMotions([still], 48)
        for (let n = 0; n < 48; n++) expect(at(dense as Motion, n, 48)).toBeCloseTo(at(still, n, 48), 4)
      }),
    )
  })
})

describe('an even speed', () => {
  it('is the same from frame to frame, round corners too', () => {
    fc.assert(
      fc.property(recording, fc.constantFrom('once' as const, 'repeat' as const), (motions, after) => {
        const path = motions.map((motion) => ({
          ...motion,
          after,
          keys: after === 'repeat' ? motion.keys.map((key) => ({ ...key, at: key.at * 0.9 })) : motion.keys,
        }))
        fc.pre(path[0]?.keys.some((key, i) => i > 0 && key.value !== path[0]?.keys[i - 1]?.value) ?? false)
        const even = evenSpeed(path)
        // Along the path from key to key: way over time is one number.
        const paces = even[0]?.keys.slice(1).map((key, i) => {
          const before = even[0]?.keys[i]
          const way = Math.hypot(...even.map(({ keys }) => (keys[i + 1]?.value ?? 0) - (keys[i]?.value ?? 0)))
          return way / (key.at - (before?.at ?? 0))
        })
        for (const pace of paces ?? []) expect(pace / (paces?.[0] ?? 1)).toBeCloseTo(1, 6)
      }),
    )
  })
  it('turns an eased turn straight', () => {
    const eased: Motion<number> = {
      after: 'accumulate',
      period: { cycles: 2 },
      phase: 0.25,
      keys: [
        { at: 0, value: 0, ease: 'ease-in-out' },
        { at: 0.7, value: 90, ease: 'ease' },
        { at: 1, value: 360, ease: 'linear' },
      ],
    }
    const [even] = evenSpeed([eased])
    for (let n = 0; n < 60; n++)
      expect(at(even as Motion, n + 1, 60) - at(even as Motion, n, 60)).toBeCloseTo((2 * 360) / 60, 6)
  })
})

describe('trembles and events', () => {
  it('are the same one loop later, and a tremble stays within its amount', () => {
    fc.assert(
      fc.property(anyTremble, real(-200, 200), fc.integer({ min: 1, max: 300 }), (tremble, frame, length) => {
        const here = trembleValue(tremble, frame, length)
        expect(trembleValue(tremble, frame + length, length)).toBeCloseTo(here, 6)
        expect(Math.abs(here)).toBeLessThanOrEqual(Math.abs(tremble.amount) + 1e-9)
      }),
    )
  })
  it('differ from seed to seed', () => {
    const one = { amount: 1, detail: 4, cycles: 1, seed: 1, phase: 0 }
    const sum = (seed: number) =>
      Array.from({ length: 40 }, (_, n) => trembleValue({ ...one, seed }, n, 40))
        .map((v) => v.toFixed(6))
        .join()
    expect(new Set([1, 2, 3, 4].map(sum)).size).toBe(4)
  })
  it('hold for so many frames at each of their points', () => {
    const blink = { value: 0, frames: 3, at: [0.25, 0.9], cycles: 2 }
    const on = Array.from({ length: 80 }, (_, n) => (isOn(blink, n, 80) ? 1 : 0))
    expect(on.reduce<number>((a, b) => a + b, 0)).toBe(2 * 2 * 3)
    expect([on[9], on[10], on[12], on[13], on[36], on[38], on[39]]).toEqual([0, 1, 1, 0, 1, 1, 0])
  })
})
